"""The words in time as WebVTT (W3C, WebVTT: The Web Video Text Tracks Format) and as SRT; both are read back too."""

from __future__ import annotations

import html
import re
from dataclasses import dataclass

from juxtaform.core.run.along import in_lines
from juxtaform.formats.out.sequence import OutSequence

_TIME = re.compile(r"(?:(\d{1,4}):)?(\d{1,2}):(\d{1,2})[.,](\d{1,3})")
_TAG = re.compile(r"</?(?:i|b|u|s|c|v|font|ruby|rt|lang)(?:[ .][^>]*)?>|<[\d:.]+>|\{\\[^}]*\}", re.IGNORECASE)
MOST_CUES = 20_000


class CaptionsWrong(ValueError):
    """A file of captions that cannot be read; the message says why."""


@dataclass(frozen=True)
class Cue:
    """Words on screen from one moment to another, in s of the whole sequence."""

    start_s: float
    end_s: float
    words: str


def cues(sequence: OutSequence) -> list[Cue]:
    """The captions of all shots in the time of the whole."""
    found = []
    for span, shot in zip(sequence.timeline.spans, sequence.shots, strict=True):
        for c in shot.captions:
            end = min(span.start_s + c.end_s, span.end_s)
            if end - (span.start_s + c.start_s) >= 0.001:
                found.append(Cue(span.start_s + c.start_s, end, c.words))
    return found


def web_vtt(sequence: OutSequence) -> str:
    """All words as WebVTT."""
    parts = [f"WEBVTT\n\nNOTE {_plain(sequence.title)}\n"]
    for i, cue in enumerate(cues(sequence), 1):
        lines = "\n".join(html.escape(line, quote=False) for line in in_lines(cue.words))
        parts.append(f"{i}\n{stamp(cue.start_s)} --> {stamp(cue.end_s)}\n{lines}\n")
    return "\n".join(parts)


def srt(sequence: OutSequence) -> str:
    """All words as SRT."""
    return "\n".join(
        f"{i}\n{stamp(c.start_s, ',')} --> {stamp(c.end_s, ',')}\n" + "\n".join(in_lines(c.words)) + "\n"
        for i, c in enumerate(cues(sequence), 1)
    )


def stamp(time_s: float, point: str = ".") -> str:
    """A moment as hours, minutes, seconds and thousandths.

    >>> stamp(3661.5), stamp(0.0499, ",")
    ('01:01:01.500', '00:00:00,050')
    """
    ms = round(time_s * 1000)
    return f"{ms // 3_600_000:02d}:{ms // 60_000 % 60:02d}:{ms // 1000 % 60:02d}{point}{ms % 1000:03d}"


def read_captions(data: bytes) -> list[Cue]:
    """The cues of a WebVTT or SRT file in their order. Raises CaptionsWrong."""
    text = _decoded(data).replace("\r\n", "\n").replace("\r", "\n").lstrip("\ufeff")
    found = []
    for block in re.split(r"\n[ \t]*\n", text):
        lines = [line for line in block.split("\n") if line.strip()]
        at = next((i for i, line in enumerate(lines) if "-->" in line), None)
        if at is None:
            continue
        times = _TIME.findall(lines[at].split("-->")[0] + " " + lines[at].split("-->")[1])
        if len(times) < 2:
            raise CaptionsWrong(f"“{lines[at].strip()[:60]}” does not say from when to when.")
        start, end = (_seconds(t) for t in times[:2])
        if end < start:
            raise CaptionsWrong(f"“{lines[at].strip()[:60]}” ends before it begins.")
        words = " ".join(html.unescape(_TAG.sub("", " ".join(lines[at + 1 :]))).split())
        if words:
            found.append(Cue(start, end, words))
        if len(found) > MOST_CUES:
            raise CaptionsWrong(f"The file has more than {MOST_CUES:,} captions. Split it.")
    if not found:
        raise CaptionsWrong("No captions are in this file. WebVTT and SRT are read.")
    return sorted(found, key=lambda c: c.start_s)


def _seconds(parts: tuple[str, str, str, str]) -> float:
    hours, minutes, seconds, part = parts
    return int(hours or 0) * 3600 + int(minutes) * 60 + int(seconds) + int(part.ljust(3, "0")) / 1000


def _decoded(data: bytes) -> str:
    for encoding in ("utf-8", "utf-16") if data[:2] in (b"\xff\xfe", b"\xfe\xff") else ("utf-8",):
        try:
            return data.decode(encoding)
        except UnicodeDecodeError:
            continue
    return data.decode("cp1252", errors="replace")


def _plain(words: str) -> str:
    return " ".join(words.replace("-->", "→").split())
