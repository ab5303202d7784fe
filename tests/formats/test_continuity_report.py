"""The report as files: everything in it, nothing beside it, and headings that keep to their entries."""

import base64
import io

import numpy as np
import pytest
from PIL import Image

from juxtaform.core.findings import Evidence
from juxtaform.formats.continuity_report import (
    ContinuityReport,
    ReportEntry,
    ReportPart,
    ReportPicture,
    report_html,
    report_pdf,
)
from tests.conftest import flat, png


def entry(title, *pictures, decided="", rows=()):
    return ReportEntry("Shot 3", title, "Retake it.", rows, pictures, decided)


@pytest.fixture
def report():
    picture = ReportPicture(flat(size=(300, 200)), "Shot 3", (0.25, 0.25, 0.5, 0.5))
    rows = (Evidence("Coat", "#3f6b2a", "#dba326", measured_hex="#3f6b2a", behind="CIEDE2000 44"),)
    parts = (
        ReportPart("The coat is <olive>", "", (entry("The coat is <olive>", picture, rows=rows),)),
        ReportPart(
            "Two more", "All were made with “Press”.", (entry("One", decided="Let stand: meant"), entry("Łódź Ωmega"))
        ),
    )
    return ContinuityReport("Pell & the Tide", ("Checked.",), parts, ("Oda holds.",), ("After 6 accepted …",))


def test_the_page_escapes_what_it_is_told_and_says_a_title_once(report):
    page = report_html(report)
    assert "<olive>" not in page
    assert page.count("The coat is &lt;olive&gt;") == 1
    assert "Pell &amp; the Tide" in page
    assert "<h3>Shot 3: One</h3>" in page
    assert "Let stand: meant" in page
    assert "Oda holds." in page


def test_the_box_to_look_at_is_drawn_on_the_picture(report):
    page = report_html(report)
    data = page.split("base64,")[1].split('"')[0]
    seen = np.asarray(Image.open(io.BytesIO(base64.b64decode(data))).convert("RGB")).astype(int)
    edge = seen[51, 120]
    assert edge[0] > edge[1] + 60
    assert abs(seen[100, 150] - [200, 60, 40]).max() < 25


def test_the_pdf_holds_any_number_of_entries(report):
    many = ContinuityReport(
        "Many",
        (),
        tuple(
            ReportPart(
                f"Part {i}",
                "",
                (
                    entry(
                        "It",
                        ReportPicture(png(np.full((200, 300, 3), i * 6, np.uint8)), "a"),
                    ),
                ),
            )
            for i in range(30)
        ),
    )
    data = report_pdf(many)
    assert data.startswith(b"%PDF")
    assert 10 < data.count(b"/Type /Page\n") <= 31
    assert report_pdf(report).startswith(b"%PDF")


def test_a_clean_report_says_so():
    clean = ContinuityReport("Clean", ("Checked.",), ())
    assert "all that was looked at holds" in report_html(clean)
    assert report_pdf(clean).startswith(b"%PDF")
