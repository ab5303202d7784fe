"""How a text marks what somebody says, found by looking at all of it, and where such words stand."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

PAIRS: tuple[tuple[str, str], ...] = (
    ("“", "”"),
    ('"', '"'),
    ("‘", "’"),
    ("'", "'"),
    ("«", "»"),
    ("»", "«"),
    ("„", "“"),
    ("„", "”"),
    ("「", "」"),
    ("『", "』"),
)
"""The marks around speech that are known, opening and closing."""
_DASH = re.compile(r"(?m)^[ \t]*[—–―-][ \t]*(?=[^\W\d_a-z]|[¿¡])")
_DASH_STOP = re.compile(r"\s*[—–―]\s*")
REACH = 2000
"""Characters that one speech may have: a mark that is never closed ends with its paragraph, or here."""


@dataclass(frozen=True)
class Habit:
    """The marks that a text puts around speech: opening and closing ones, or a dash before it (`closes` is empty); how often it does."""

    opens: str = ""
    closes: str = ""
    times: int = 0

    @property
    def words(self) -> str:
        """The habit as a reader would write it.

        >>> Habit("“", "”", 3).words, Habit("—", "", 2).words, Habit().words
        ('“ ”', '— …', '')
        """
        return f"{self.opens} {self.closes or '…'}" if self.opens else ""


NO_HABIT = Habit()


def habit_of(text: str) -> Habit:
    """The marks that most of a text's speeches have; an empty habit where nobody speaks in marks.

    >>> habit_of("‘It's the boys' boat,’ he said. ‘Ours.’").words, habit_of("— Ven — dijo Ana.\\n— Voy.").words
    ('‘ ’', '— …')
    """
    found = [
        Habit(o, c, sum(1 for _ in _marked(text, o, c, closed=True)))
        for o, c in PAIRS
        if o in text and (o == c or c in text)
    ]
    best = max(found, key=lambda h: h.times, default=NO_HABIT)
    dashes = len(_DASH.findall(text))
    if dashes >= 2 and dashes > best.times:
        return Habit("—", "", dashes)
    if best.times:
        return best
    open_only = [Habit(o, c, text.count(o)) for o, c in PAIRS if o in text and o not in "'‘’»"]
    return max(open_only, key=lambda h: h.times, default=NO_HABIT)


def said(text: str, habit: Habit, start: int = 0, end: int | None = None) -> list[tuple[int, int]]:
    """Where somebody's words stand in text[start:end], marks and all: outermost marks count, an unclosed speech ends with its paragraph.

    >>> text = "“I said ‘no’,” said Oda. “And then"
    >>> [text[a:b] for a, b in said(text, habit_of(text))]
    ['“I said ‘no’,”', '“And then']
    """
    stop = len(text) if end is None else end
    if not habit.opens:
        return []
    if not habit.closes:
        lines = list(_dashed(text, start, stop))
        quoted = _marked(text, "«", "»", start=start, end=stop)
        return sorted([*lines, *(x for x in quoted if not any(a < x[1] and x[0] < b for a, b in lines))])
    spans = list(_marked(text, habit.opens, habit.closes, start=start, end=stop))
    for opens, closes in (("“", "”"), ('"', '"'), ("«", "»")):
        if opens not in (habit.opens, habit.closes) and opens in text[start:stop] and habit.opens not in ("»", "„"):
            spans += [
                (a, b)
                for a, b in _marked(text, opens, closes, start=start, end=stop, closed=True)
                if not any(x < b and a < y for x, y in spans)
            ]
    if habit.opens == "«":
        spans += [x for x in _answers(text, start, stop) if not any(a < x[1] and x[0] < b for a, b in spans)]
    return sorted(spans)


def _answers(text: str, start: int, stop: int) -> Iterator[tuple[int, int]]:
    """Lines with a dash within a conversation that one pair of marks holds: `« Il mord ?\\n— Seulement les facteurs », répondit Guy.`"""
    for m in _DASH.finditer(text, start, stop):
        end = text.find("\n", m.end(), stop)
        line = end if end >= 0 else stop
        close = text.find("»", m.end(), line)
        yield m.start(), close + 1 if close >= 0 else line


def _marked(
    text: str, opens: str, closes: str, *, start: int = 0, end: int | None = None, closed: bool = False
) -> Iterator[tuple[int, int]]:
    """Stretches from an opening mark to its closing one. `closed` leaves out those that nothing closes."""
    stop = len(text) if end is None else end
    at = start
    while (begin := text.find(opens, at, stop)) >= 0:
        if not _opens(text, begin, opens, start):
            at = begin + 1
            continue
        line = text.find("\n\n", begin, stop)
        limit = min(stop, begin + REACH, line if line >= 0 else stop)
        close = _closing(text, begin + 1, limit, opens, closes)
        if close is None:
            if closed:
                at = begin + 1
                continue
            yield begin, len(text[:limit].rstrip()) if limit < begin + REACH else limit
            at = limit
        else:
            yield begin, close
            at = close


def _opens(text: str, at: int, mark: str, start: int) -> bool:
    before = text[at - 1] if at > start else " "
    after = text[at + 1] if at + 1 < len(text) else " "
    if mark in "\"'":
        return (
            (before.isspace() or before in "([—–-:,\x01")
            and not after.isspace()
            and (mark == '"' or after.isalpha() or after in '“"…¿¡—')
        )
    return mark not in "‘»" or (not before.isalnum() and not after.isspace())


def _closing(text: str, at: int, limit: int, opens: str, closes: str) -> int | None:
    """The place behind the closing mark. Where it is also an apostrophe, one between letters or behind a plural `s` closes nothing if another one follows."""
    depth = 0
    i = at
    while i < limit:
        c = text[i]
        if c == closes and (opens == closes or depth == 0):
            if closes in "'’":
                before, after = text[i - 1], text[i + 1] if i + 1 < len(text) else " "
                inside = before.isalnum() and after.isalnum()
                leading = not before.isalnum() and before not in '.,!?…—–-)”"' and after.isalnum()
                owned = (
                    before in "sz"
                    and after == " "
                    and text[i + 2 : i + 3].islower()
                    and closes in text[i + 1 : limit]
                    and _speech_end_ahead(text, i + 1, limit, closes)
                )
                if inside or leading or owned:
                    i += 1
                    continue
            return i + 1
        if opens != closes and c == opens and opens not in "„":
            depth += 1
        elif opens != closes and c == closes:
            depth -= 1
        i += 1
    return None


def _speech_end_ahead(text: str, at: int, limit: int, closes: str) -> bool:
    """Whether a mark that surely closes (behind a stop or a comma) comes before one that surely opens."""
    m = re.search(rf"[.,!?…—]{re.escape(closes)}", text[at:limit])
    return m is not None and (" ‘" not in text[at : at + m.start()] and " '" not in text[at : at + m.start()])


def _dashed(text: str, start: int, stop: int) -> Iterator[tuple[int, int]]:
    """Lines that begin with a dash: words until another dash (`— Ven — dijo Ana — ahora.`) or the line's end, by turns."""
    for m in _DASH.finditer(text, start, stop):
        end = text.find("\n", m.end(), stop)
        line_end = end if end >= 0 else stop
        at, speaking = m.end(), True
        while at < line_end:
            dash = _DASH_STOP.search(text, at, line_end)
            until = dash.start() if dash and dash.end() < line_end else line_end
            if speaking and until > at:
                yield (m.start() if at == m.end() else at), until
            at = dash.end() if dash and dash.end() < line_end else line_end
            speaking = not speaking


MARKS = " “”\"«»„‘’'「」『』—–―\n"


def bare(words: str) -> str:
    """What is said, without its marks.

    >>> bare("“Come here,”")
    'Come here,'
    """
    return words.strip(MARKS)


def without_speech(text: str) -> str:
    """Some words with what somebody says in them left out, by the marks that they have themselves.

    >>> without_speech("“Come,” said Oda.")
    ' said Oda.'
    """
    out, at = [], 0
    for a, b in said(text, habit_of(text)):
        out.append(text[at:a])
        at = b
    return "".join([*out, text[at:]])
