"""Web annotations: what goes out comes in the same, other programs' forms are read, what is none is told."""

import json
from datetime import UTC, datetime

import pytest

from juxtaform.formats.annotations import AnnotationsWrong, Remark, as_page, read, urn_of

ONE, TWO = "0123456789abcdef0123456789abcdef", "f" * 32
AT = datetime(2026, 11, 27, 9, 30, tzinfo=UTC)


def back(remarks):
    return read(json.dumps(as_page("To Ines", remarks)).encode()).remarks


@pytest.mark.parametrize(
    "remark",
    [
        Remark(ONE, "The whole shot.", "Ines", "s1"),
        Remark(ONE, "Här, at a point.", "Ines", "s1", "a" * 64, [0.25, 0.75]),
        Remark(ONE, "In a box.", "Ines", "s1", "", [0.1, 0.2, 0.3, 0.4]),
        Remark(ONE, "At a moment.", "Ines", "s1", at_s=12.5),
    ],
)
def test_what_goes_out_comes_in_the_same(remark):
    [found] = back([remark])
    assert (found.words, found.name, found.shot, found.at_s) == (remark.words, remark.name, remark.shot, remark.at_s)
    assert found.id == urn_of(ONE)
    assert found.place == (pytest.approx(remark.place, abs=1e-4) if remark.place else None)


def test_an_answer_names_what_it_answers_and_dates_are_in_utc():
    page = as_page("x", [Remark(ONE, "Why?", "Ines", "s1", at=AT), Remark(TWO, "Because.", "Mira", answers=ONE)])
    first, second = page["items"]
    assert first["created"] == "2026-11-27T09:30:00Z"
    assert (second["motivation"], second["target"]) == ("replying", first["id"])
    assert [r.answers for r in read(json.dumps(page).encode()).remarks] == ["", urn_of(ONE)]


def test_a_verdict_is_an_assessment():
    [item] = as_page("x", [], [("s1", "Ines", "good")])["items"]
    assert (item["motivation"], item["body"]["value"], item["target"]) == ("assessing", "good", "urn:juxtaform:shot:s1")


def note(target, **more):
    return {"id": "https://other.example/1", "type": "Annotation", "bodyValue": "Look.", "target": target, **more}


SHOT = "urn:juxtaform:shot:s1"


@pytest.mark.parametrize(
    ("item", "place", "at_s"),
    [
        (note(SHOT), None, None),
        (note([SHOT]), None, None),
        (note({"id": SHOT}), None, None),
        (note({"source": {"id": SHOT}}), None, None),
        (note(f"{SHOT}#xywh=percent:10,20,30,40"), [0.1, 0.2, 0.3, 0.4], None),
        (note(f"{SHOT}#t=4.5"), None, 4.5),
        (note(f"{SHOT}#t=npt:2,6"), None, 2.0),
        (
            note(
                {
                    "source": SHOT,
                    "selector": [
                        {"type": "CssSelector", "value": "p"},
                        {"type": "FragmentSelector", "value": "xywh=5,6,7,8"},
                    ],
                }
            ),
            [5, 6, 7, 8],
            None,
        ),
        (note(SHOT, body={"type": "TextualBody", "value": "Look."}, bodyValue=None), None, None),
        (note(SHOT, creator=[{"nickname": "Aino"}]), None, None),
    ],
)
def test_other_programs_forms_are_read(item, place, at_s):
    for data in (
        item,
        [item],
        {"type": "AnnotationPage", "items": [item]},
        {"type": "AnnotationCollection", "first": {"items": [item]}},
    ):
        [found] = read(json.dumps(data).encode()).remarks
        assert (found.words, found.shot, found.place, found.at_s) == ("Look.", "s1", place, at_s)
        assert found.in_px == (place == [5, 6, 7, 8])


@pytest.mark.parametrize("data", [b"", b"{", b"5", b'"x"', b'{"a": 1}', b"\xff\xfe", b"[" * 20_000])
def test_what_is_no_annotation_is_told(data):
    with pytest.raises(AnnotationsWrong, match=r"JSON|annotation"):
        read(data)


@pytest.mark.parametrize(
    "item",
    [
        None,
        5,
        {},
        note([]),
        note(SHOT, bodyValue=""),
        note(None),
        note("https://other.example/page"),
        note({"source": 5}),
    ],
)
def test_one_that_cannot_be_used_is_left_out_with_its_reason(item):
    found = read(json.dumps([item, note(SHOT)]).encode())
    assert len(found.remarks) == 1
    assert found.left_out[0].startswith("Annotation 1: ")


def test_too_many_at_once_are_told():
    with pytest.raises(AnnotationsWrong, match="most"):
        read(json.dumps([note(SHOT)] * 5001).encode())
