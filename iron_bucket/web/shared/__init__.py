"""What every station's pages share: layout, filters, guards, pictures, keys."""
