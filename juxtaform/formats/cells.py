"""Cells of tables for spreadsheets: one that a spreadsheet would run as a formula is written as text, and read back as it was.

The usual way (OWASP, CSV injection): an apostrophe before `=`, `+`, `-`, `@`, a tab or a line end, also in their full-width forms.
Cells that begin with apostrophes before such a mark get one more, so that reading takes exactly one away.
"""

from __future__ import annotations

import re

_FORMULA = re.compile(r"'*[=+\-@\t\r\n＝＋－＠]")
_GUARDED = re.compile(r"'+[=+\-@\t\r\n＝＋－＠]")


def safe_cell(cell: str) -> str:
    """A cell as it may go out.

    >>> safe_cell("=1+1"), safe_cell("'=1+1"), safe_cell("two - one"), safe_cell("'tis")
    ("'=1+1", "''=1+1", 'two - one', "'tis")
    """
    return f"'{cell}" if _FORMULA.match(cell) else cell


def plain_cell(cell: str) -> str:
    """A cell as it was before it went out.

    >>> plain_cell("'=1+1"), plain_cell("''=1+1"), plain_cell("=1+1"), plain_cell("'tis")
    ('=1+1', "'=1+1", '=1+1', "'tis")
    """
    return cell[1:] if _GUARDED.match(cell) else cell
