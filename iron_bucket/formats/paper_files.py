"""A paper as CSV, as a spreadsheet and as JSON."""

import csv
import io
from typing import Any

from iron_bucket.core.bucket.papers import Paper
from iron_bucket.formats.bucket_files import plain_cell


def paper_csv(paper: Paper) -> str:
    """One line a row; the heading that a row stands under comes first, where there is any."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    has_titles = any(section.title for section in paper.sections)
    writer.writerow(("under", *paper.columns) if has_titles else paper.columns)
    for row in paper.rows:
        cells = row if has_titles else row[1:]
        writer.writerow([plain_cell(cell) if isinstance(cell, str) else "" if cell is None else cell for cell in cells])
    return out.getvalue()


def paper_json(paper: Paper) -> dict[str, Any]:
    """Sections with their rows as objects by the columns."""
    return {
        "format": "iron-bucket paper",
        "version": 1,
        "paper": paper.kind.value,
        "title": paper.title,
        "sections": [
            {"title": section.title, "rows": [dict(zip(paper.columns, row, strict=True)) for row in section.rows]}
            for section in paper.sections
        ],
    }


def paper_xlsx(paper: Paper) -> bytes:
    """A workbook of one sheet, its head frozen."""
    # Loaded when a spreadsheet is first asked for.
    from openpyxl import Workbook  # noqa: PLC0415
    from openpyxl.styles import Font  # noqa: PLC0415

    book = Workbook()
    sheet = book.active
    sheet.title = paper.title[:31].translate(str.maketrans("[]:*?/\\", "       "))
    sheet.append(list(paper.columns))
    for cell in sheet[1]:
        cell.font = Font(bold=True)
    sheet.freeze_panes = "A2"
    for section in paper.sections:
        if section.title and section.rows:
            sheet.append([plain_cell(section.title)])
            sheet.cell(sheet.max_row, 1).font = Font(bold=True)
        for row in section.rows:
            sheet.append([plain_cell(cell) if isinstance(cell, str) else cell for cell in row])
    for column, heading in zip(sheet.columns, paper.columns, strict=False):
        widest = max((len(str(cell.value or "")) for cell in column), default=len(heading))
        sheet.column_dimensions[column[0].column_letter].width = min(widest + 2, 60)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()
