"""Words from files into a project, tables by chosen columns, the lexicon as a file."""

from pathlib import Path

from playwright.sync_api import Page, expect


def script(page: Page) -> None:
    page.keyboard.press("2")
    page.locator("[data-words=script]").click()


def test_a_table_comes_in_by_the_columns_that_are_chosen(page: Page, tmp_path: Path) -> None:
    table = tmp_path / "narration.csv"
    table.write_text("nr;note;spoken\n1;loud;The tide comes back.\n2;soft;And the pools are gone.\n")
    script(page)
    page.locator("#words-file").set_input_files(table)
    expect(page.locator("#plan")).to_contain_text("1 changed, 1 new")
    columns = page.get_by_label("Column for Words")
    columns.select_option("1")
    expect(page.locator("#plan")).to_contain_text("loud")
    columns.select_option("2")
    expect(page.locator("#plan")).to_contain_text("The tide comes back.")
    page.locator("#words-how").select_option("anew")
    page.get_by_label("Over the shots").select_option("single")
    page.locator("#bring-words").click()
    expect(page.locator("#notice")).to_contain_text("Brought in: 2 lines")
    expect(page.locator("#script .scaption")).to_have_count(2)
    page.keyboard.press("Control+z")
    expect(page.locator("#script .srow[data-line]")).to_have_count(10)


def test_a_file_that_can_not_be_read_is_said_and_what_was_typed_stays(page: Page, tmp_path: Path) -> None:
    fake = tmp_path / "words.docx"
    fake.write_bytes(b"PK no document")
    script(page)
    page.locator("#words-file").set_input_files(fake)
    expect(page.locator("#notice")).to_contain_text("words.docx: it is no DOCX document")
    page.locator("#pasted").fill("Море идёт.")
    expect(page.locator("#plan")).to_contain_text("Words in Cyrillic script are kept as they are")
    expect(page.locator("#pasted")).to_have_value("Море идёт.")


def test_the_script_and_the_lexicon_go_out_and_come_back_as_files(page: Page, tmp_path: Path) -> None:
    script(page)
    with page.expect_download() as written:
        page.get_by_role("link", name="Export the script with its direction").click()
    out = tmp_path / "script.ssml"
    written.value.save_as(out)
    page.locator("#words-file").set_input_files(out)
    expect(page.locator("#plan")).to_contain_text("10 lines: 10 as they are")
    page.locator("[data-words=lexicon]").click()
    lexicon = tmp_path / "bay.pls"
    lexicon.write_text(
        '<lexicon version="1.0" alphabet="ipa" xml:lang="en" xmlns="http://www.w3.org/2005/01/pronunciation-lexicon">'
        "<lexeme><grapheme>Marrow</grapheme><phoneme>mˈæɹoʊ</phoneme></lexeme>"
        "<lexeme><grapheme>Bay</grapheme><phoneme>42</phoneme></lexeme></lexicon>"
    )
    page.locator("#lexicon-file").set_input_files(lexicon)
    expect(page.locator("#lexicon")).to_contain_text("/mˈæɹoʊ/")
    expect(page.get_by_text("is no sign of the International Phonetic Alphabet")).to_be_visible()
    page.get_by_label("Remove Marrow from the lexicon").click()
    expect(page.locator("#lexicon tbody tr")).to_have_count(0)


def test_a_line_is_doubled_laid_elsewhere_and_kept_within_the_budget(page: Page) -> None:
    page.locator('.voice[data-line="l2"]').click()
    page.keyboard.press("2")
    page.locator("[data-words=line]").click()
    page.locator("#double-line").click()
    expect(page.locator("#script .srow[data-line]")).to_have_count(11)
    page.locator("#first-shot").select_option("s3")
    expect(page.get_by_role("heading", name="Line 4")).to_be_visible()
    page.locator("#budget").fill("100")
    page.locator("#budget").press("Enter")
    expect(page.locator("#amount")).to_contain_text("too many")


def test_a_line_is_cut_before_a_word_and_a_choice_of_lines_is_written(page: Page) -> None:
    page.locator('.voice[data-line="l2"]').click()
    page.keyboard.press("n")
    page.locator('#direct-words [data-word="3"]').click()
    page.locator("#split-line").click()
    expect(page.locator("#script .srow[data-line]")).to_have_count(11)
    expect(page.locator('script-text[data-id="c2"]')).to_have_text("What it forgets,")
    page.keyboard.press("Control+z")
    page.keyboard.press("3")
    page.locator("[data-cast=coverage]").click()
    page.locator("#sound-from").fill("3")
    page.locator("#sound-to").fill("2")
    page.locator("#sound-choice").click()
    expect(page.locator("#notice")).to_contain_text("Made 2 files: low-tide-at-marrow-bay-narrator-02.wav")


def test_a_commercial_piece_offers_only_voices_that_may_be_used(page: Page) -> None:
    page.keyboard.press("3")
    shown = page.locator(".voices li")
    before = shown.count()
    page.locator("[data-cast=roles]").click()
    page.locator("#commercial").check()
    page.locator("[data-cast=voices]").click()
    expect(shown).to_have_count(before)  # all that come with the application may be used
    page.get_by_label("List, put on the shortlist: Holt").click()
    page.get_by_label("Shortlist", exact=True).check()
    expect(shown).to_have_count(1)
    with_focus = page.get_by_label("Hear the sample of Holt")
    with_focus.focus()
    with page.expect_response("**/api/voices/holt/sample.wav?project=**") as heard:
        page.keyboard.press("y")
    assert heard.value.ok
