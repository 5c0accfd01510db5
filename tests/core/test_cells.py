"""Text in cells: no formula goes out, and what goes out comes back."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.core.cells import cell_said, plain_cell


@pytest.mark.parametrize("text", ["=1+1", "+cmd|' /C calc'!A0", "-2+3", "@SUM(A1)", "\t=1", "--5"])
def test_what_a_spreadsheet_would_work_out_is_marked_as_text(text):
    assert plain_cell(text) == f"'{text}"


@pytest.mark.parametrize("text", ["-5.00", "+1,234.50", "12", "", "O'Brien", "a=b"])
def test_figures_and_plain_words_stay_as_they_are(text):
    assert plain_cell(text) == text


@given(st.text(max_size=20))
def test_what_went_out_comes_back(text):
    if not text.startswith("'"):
        assert cell_said(plain_cell(text)) == text
