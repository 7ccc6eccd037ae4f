"""What the light of a built scene does: at marks, on faces, over planes, on walls. Proposes nothing."""
