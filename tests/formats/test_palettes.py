"""Palettes go out and come back in three forms; what cannot be read is told by line or place."""

import pytest

from juxtaform.formats.palettes import NamedColour, PaletteWrong, read, write_css, write_gpl, write_json

DUSK = [
    NamedColour("#1f5f66", "teal", "lead"),
    NamedColour("#efb9a4", "shell pink", "other"),
    NamedColour("#0d4a4e", "teal", "ground"),
]


@pytest.mark.parametrize("write", [write_gpl, write_css, write_json])
def test_a_palette_comes_back_with_its_colours_and_roles(write):
    back = read("dusk", write("Dusk ‘ö’ */", DUSK))
    assert [(c.hex, c.role) for c in back] == [(c.hex, c.role) for c in DUSK]
    assert back[1].name == "shell pink"


def test_css_names_are_never_doubled():
    text = write_css("x", [NamedColour("#000001", "a"), NamedColour("#000002", "a")]).decode()
    assert "--a:" in text
    assert "--a-2:" in text


def test_strangers_files_are_read():
    gpl = b"GIMP Palette\r\nName: X\r\n# a comment\r\n255   0 10\tred one\r\n 0 0 0\r\n"
    assert [c.hex for c in read("x.gpl", gpl)] == ["#ff000a", "#000000"]
    css = b":root { --brand: #FA3; --ink: rgb(10, 20, 30); --gap: 4px; }\n.x { --deep: #11223344 }"
    assert [(c.hex, c.name) for c in read("x.css", css)] == [
        ("#ffaa33", "brand"),
        ("#0a141e", "ink"),
        ("#112233", "deep"),
    ]
    assert [c.hex for c in read("x.json", b'["#abc", {"hex": "#010203", "name": "n", "role": "odd"}]')] == [
        "#aabbcc",
        "#010203",
    ]


@pytest.mark.parametrize(
    ("data", "message"),
    [
        (b"GIMP Palette\n300 0 0 x\n", "line 2"),
        (b"GIMP Palette\nred green\n", "line 2"),
        (b"GIMP Palette\nName: none\n", "holds no colours"),
        (b"body { color: red }", "holds no colours"),
        (b":root{\n--a: #12;\n}", "line 2: #12 is no colour"),
        (b'{"colours": 5}', "no list of colours"),
        (b'["#zz"]', "colour 1"),
        (b'{"colours": [', "not whole JSON"),
        (b"\x00\x01\x02", "no text palette"),
        (b"x" * 1_000_001, "larger than a palette"),
    ],
)
def test_what_is_no_palette_is_told_with_its_place(data, message):
    with pytest.raises(PaletteWrong, match=message):
        read("p", data)
