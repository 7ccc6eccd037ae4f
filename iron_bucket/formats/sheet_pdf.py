"""A page of HTML as PDF. Nothing is fetched: fonts and pictures are in the page or on the machine."""


def sheet_pdf(page: str) -> bytes:
    """The PDF's bytes."""
    # Loaded when a sheet is first asked for: it takes a second, and needs libraries that the pages do not.
    import weasyprint  # noqa: PLC0415
    from weasyprint.urls import URLFetcher  # noqa: PLC0415

    class Nothing(URLFetcher):  # type: ignore[misc]
        """Refuses every address."""

        def fetch(self, url: str, headers: object = None) -> object:
            raise ValueError(f"a sheet fetches nothing, and not {url[:60]}")

    return bytes(weasyprint.HTML(string=page, url_fetcher=Nothing()).write_pdf())
