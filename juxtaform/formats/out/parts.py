"""A PDF made in parts, so that a long one needs no more memory than a short one, and work that was stopped goes on at the part where it was."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from contextlib import ExitStack
from pathlib import Path
from typing import TypeVar

import pikepdf
from fpdf import FPDF

from juxtaform.formats.out.sequence import Going

Item = TypeVar("Item")


def in_parts(
    items: Sequence[Item], size: int, name: str, draw: Callable[[Sequence[Item], int], FPDF], going: Going
) -> list[Path]:
    """Draw items so many at a time, each time into a PDF of its own that is kept; `draw` gets some items and the index of the first. Raises Stopped."""
    paths = []
    for start in range(0, max(1, len(items)), size):
        path = going.kept(f"{name}-{start:05d}.pdf")
        paths.append(path)
        if not path.exists():
            pdf = draw(items[start : start + size], start)
            half = path.with_suffix(".half")
            pdf.output(str(half))
            half.replace(path)
        going.done(min(len(items), start + size), len(items))
    return paths


def joined(
    parts: Sequence[Path], to: Path, title: str, language: str, page: Callable[[pikepdf.Page], None] | None = None
) -> None:
    """One PDF of several; what is drawn on their pages is copied from file to file. `page` may change each page."""
    with ExitStack() as opened, pikepdf.new() as whole:
        for path in parts:
            whole.pages.extend(opened.enter_context(pikepdf.open(path)).pages)
        if page is not None:
            for own in whole.pages:
                page(own)
        whole.Root.Lang = pikepdf.String(language)
        with whole.open_metadata() as about:
            about["dc:title"] = title or "Juxtaform"
            about["xmp:CreatorTool"] = "Juxtaform"
        whole.docinfo["/Title"] = title
        whole.docinfo["/Creator"] = "Juxtaform"
        whole.save(to)
