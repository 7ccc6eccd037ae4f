"""An address as a QR code (ISO/IEC 18004) that a phone's camera reads."""

import io

import segno


def qr_svg(text: str) -> str:
    """SVG of its own size, black on nothing, a quarter of it may be scratched."""
    out = io.BytesIO()
    segno.make(text, error="q", micro=False).save(out, kind="svg", xmldecl=False, svgns=True, nl=False, omitsize=True)
    return out.getvalue().decode("utf-8")
