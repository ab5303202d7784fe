"""Documents as a word processor writes them, made of a few words."""

from __future__ import annotations

import io
import zipfile

W = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"'
ODF = " ".join(
    f'xmlns:{short}="urn:oasis:names:tc:opendocument:xmlns:{name}:1.0"'
    for short, name in (("office", "office"), ("text", "text"), ("style", "style"), ("draw", "drawing"))
)
KINDS = "http://schemas.openxmlformats.org/package/2006/content-types"
MAIN = "application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"
STYLES = (("Heading1", "heading 1"), ("Cue", "Character"), ("TOC1", "toc 1"))


def zipped(**parts: str | bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, part in parts.items():
            archive.writestr(name, part)
    return out.getvalue()


def par(words: str, style: str = "", counted: bool = False) -> str:
    about = f'<w:pStyle w:val="{style}"/>' if style else ""
    about += '<w:numPr><w:ilvl w:val="0"/><w:numId w:val="1"/></w:numPr>' if counted else ""
    runs = words if words.startswith("<") else f'<w:r><w:t xml:space="preserve">{words}</w:t></w:r>' if words else ""
    return f"<w:p><w:pPr>{about}</w:pPr>{runs}</w:p>"


def docx(*body: str) -> bytes:
    styles = "".join(
        f'<w:style w:type="paragraph" w:styleId="{key}"><w:name w:val="{name}"/></w:style>' for key, name in STYLES
    )
    counting = '<w:lvl w:ilvl="0"><w:numFmt w:val="decimal"/><w:lvlText w:val="%1."/></w:lvl>'
    notes = f'<w:footnotes {W}><w:footnote w:id="2">{par("A note below.")}</w:footnote></w:footnotes>'
    return zipped(
        **{
            "[Content_Types].xml": f'<Types xmlns="{KINDS}"><Override PartName="/word/document.xml" ContentType="{MAIN}"/></Types>',
            "word/document.xml": f"<w:document {W}><w:body>{''.join(body)}</w:body></w:document>",
            "word/styles.xml": f"<w:styles {W}>{styles}</w:styles>",
            "word/footnotes.xml": notes,
            "word/numbering.xml": f'<w:numbering {W}><w:abstractNum w:abstractNumId="0">{counting}</w:abstractNum>'
            '<w:num w:numId="1"><w:abstractNumId w:val="0"/></w:num></w:numbering>',
        }
    )


def odt(body: str) -> bytes:
    counting = '<text:list-style style:name="L1"><text:list-level-style-number text:level="1"/></text:list-style>'
    return zipped(
        **{
            "mimetype": "application/vnd.oasis.opendocument.text",
            "content.xml": f"<office:document-content {ODF}><office:automatic-styles>{counting}</office:automatic-styles>"
            f"<office:body><office:text>{body}</office:text></office:body></office:document-content>",
        }
    )
