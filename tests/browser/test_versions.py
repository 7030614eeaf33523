"""One piece in two languages: begun from a table, fitted, and exported."""

import csv
import io
from collections.abc import Callable
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.application import served

WORDS = "The lamp goes out.\nKEEPER: It was never lit.\nNobody minds.\n"
SPANISH = ["La lámpara se apaga.", "Nunca estuvo encendida.", "A nadie le importa."]


@pytest.mark.long
def test_a_version_in_spanish_from_a_table_is_fitted_and_exported(
    tmp_path: Path, open_page: Callable[[str], Page]
) -> None:
    with served(tmp_path / "data") as address:
        page = open_page(f"{address}/new")
        page.locator("input[name=name]").fill("The lamp")
        page.locator("textarea[name=pasted]").fill(WORDS)
        page.get_by_role("button", name="Make the project").click()
        expect(page.locator("#page .shot").first).to_be_visible()

        page.get_by_role("link", name="Versions").click()
        with page.expect_download() as download:
            page.get_by_role("link", name="Words to translate as CSV: English").click()
        rows = list(csv.reader(io.StringIO(download.value.path().read_text("utf-8-sig"))))
        assert [row[2] for row in rows[1:]] == ["The lamp goes out.", "It was never lit.", "Nobody minds."]
        table = tmp_path / "palabras.csv"
        with table.open("w", newline="") as file:
            csv.writer(file).writerows(
                [rows[0], *([*row[:3], said] for row, said in zip(rows[1:], SPANISH, strict=True))]
            )
        page.locator("select[name=language]").select_option("es")
        page.locator("#begin-version input[type=file]").set_input_files([table])
        page.get_by_role("button", name="Begin", exact=True).click()
        expect(page.locator("#versions-message")).to_contain_text("3 lines with words")
        spanish = page.locator("#all-versions tbody tr").nth(1)
        expect(spanish).to_contain_text("3 of 3 translated")
        second = page.get_by_label("Line 2, Spanish")
        expect(second).to_have_value(SPANISH[1])
        second.fill("Nunca estuvo encendida, nunca.")
        # the lengths of the others come in while it is typed
        for other in ("Line 1, Spanish", "Line 3, Spanish"):
            expect(page.get_by_label(other).locator("xpath=ancestor::td")).not_to_contain_text("≈")
        expect(second).to_have_value("Nunca estuvo encendida, nunca.")
        second.press("Tab")
        expect(second.locator("xpath=ancestor::td")).not_to_contain_text("≈")  # known, with nothing voiced

        spanish.get_by_role("link", name="Spanish", exact=True).click()
        expect(page.locator("#voice-open")).to_have_text("Voice 3 open lines")
        page.locator("#fit").click()
        page.locator("#accept").click()
        expect(page.locator("#notice")).to_contain_text("Fit accepted", timeout=60_000)
        page.locator("[data-pass=export]").click()
        page.locator("#export").click()
        expect(page.locator("#files-made")).to_contain_text("spanish.mp4", timeout=60_000)
        expect(page.locator("#files-made")).to_contain_text("spanish.srt")
