"""A text becomes proposed scenes and shots: sentences and speeches grouped into moments that one picture can show."""

from __future__ import annotations

import re
from bisect import bisect_left, bisect_right
from collections.abc import Callable, Container, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from statistics import median

from juxtaform.core.text.candidates import Candidate, story_of
from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.unspoken import unspoken
from juxtaform.core.text.languages import ENGLISH, Language
from juxtaform.core.text.manuscript import Manuscript, Passage
from juxtaform.core.text.moments import A_PAGE, A_PANEL, A_PART, Moment, moments, panelled
from juxtaform.core.text.names import Mention, Named, Reader
from juxtaform.core.text.piece import Line, Piece
from juxtaform.core.text.speech import without_speech
from juxtaform.core.text.timing import Pace, shot_time
from juxtaform.core.text.voices import Voices, Voicing

BOOK_WORDS = 22.0
"""How many words a picture of a picture book usually has."""
LEAST_WORDS = 6.0
SEVERAL = 3
"""From so many paragraphs on, speeches counted to those before them, a text has a measure of its own."""
SHOT_S = 9.0
"""How long a shot usually is while words are heard over it."""
SHOWS_MOST, PANEL_MOST, BRIEFLY = 160, 600, 60
"""The longest still description, in characters, of a sentence of a story and of a panel of a comic script; and up to where what follows a deed is told with it."""
MOST_NAMED = 3
"""So many are named in the place of `they`."""

_CLOSE, _DETAIL, _WIDE = (
    re.compile(rf"\b(?:{'|'.join(sorted(lx.GRAMMAR.words(name)))})\b", re.IGNORECASE)
    for name in ("close", "detail", "wide")
)
_ANGLES: tuple[tuple[re.Pattern[str], str], ...] = tuple(
    (re.compile(rf"\b(?:{words})\b", re.IGNORECASE), angle)
    for words, angle in (
        (
            r"from (?:high )?above|far below|bird'?s[- ]eye|seen from the (?:roof|tower|top|air)|over the rooftops",
            "bird's eye",
        ),
        (r"look(?:ed|s|ing)? down|peer(?:ed|s|ing)? down|down the (?:stairs|steps|well|inside)", "high"),
        (
            r"look(?:ed|s|ing)? up|tower(?:ed|s|ing) (?:over|above)|loom(?:ed|s|ing)|climb(?:ed|s|ing)? (?:up )?(?:the|a)|high above",
            "low",
        ),
        (
            r"through (?:his|her|their|the) (?:eyes|keyhole|spyglass|telescope)|saw (?:that|the|a|how)|could see",
            "point of view",
        ),
    )
)
_FRAMED: tuple[tuple[re.Pattern[str], str], ...] = tuple(
    (re.compile(rf"^\W*(?:an? |very |tight |our view: )*(?:{words})\b", re.IGNORECASE), size)
    for words, size in (
        ("extreme close|macro|(?-i:ECU)", "ECU"),
        ("medium close|(?-i:MCU)", "MCU"),
        ("close|(?-i:CU)|tight on|inset|insert|detail", "CU"),
        ("medium wide|(?-i:MWS)|full figure|full shot", "MWS"),
        ("medium|mid[- ]?shot|(?-i:MS)|waist up|two[- ]shot", "MS"),
        ("extreme (?:wide|long)|(?-i:EWS)|panorama|aerial", "EWS"),
        ("wide|long shot|(?-i:WS|LS)|establishing|splash|double[- ]page", "WS"),
    )
)
"""How a panel's first words tell its size."""
_ANY_ANGLE = re.compile("|".join(pattern.pattern for pattern, _ in _ANGLES), re.IGNORECASE)


@dataclass(frozen=True)
class ProposedShot:
    """A moment: its span in the text (characters), what it shows, who is in it, where, with what (thread ids), trade size,
    angle, seconds, the words spoken in it, the time of day, and why a new picture begins here."""

    start: int
    end: int
    shows: str
    cast: tuple[str, ...]
    places: tuple[str, ...]
    size: str
    length_s: float
    lines: tuple[Line, ...] = ()
    props: tuple[str, ...] = ()
    angle: str = "eye level"
    time: str = ""
    why: str = ""
    move: str = ""
    """How the camera moves, where the text tells it."""
    page_form: str = ""
    """The form of its page in a book, where the text tells it: `single` or `spread`."""
    sure: float = 1.0
    """How sure it is that a picture begins here, 0..1."""

    @property
    def spoken(self) -> str:
        return " ".join(line.words for line in self.lines)


@dataclass(frozen=True)
class ProposedScene:
    """A scene: its heading (empty when the text gives none), its span, its place and time of day, and its shots."""

    title: str
    start: int
    end: int
    shots: tuple[ProposedShot, ...]
    places: tuple[str, ...] = ()
    time: str = ""


def breakdown(
    manuscript: Manuscript,
    threads: Sequence[Named] = (),
    pace: Pace | None = None,
    candidates: Sequence[Candidate] | None = None,
    *,
    medium: str = "book",
    wanted: int | None = None,
) -> list[ProposedScene]:
    """Proposed scenes and shots of a text, in order; every word that pictures cover lies in exactly one shot.

    Who and what is in a shot is told by thread id; those that the text names and that are no threads yet have ids that begin with `new:` (an empty list of
    `candidates` leaves them out). `medium` is `book` or `film`: words a picture has, or seconds at the pace. `wanted` is how many pictures the whole text should have, if somebody said so. Linear in the length of the text.
    """
    story = story_of(manuscript, tuple(threads))
    by_id = {**{t.id: t for t in threads}, **{c.id: c for c in (x.named() for x in story.candidates())}}
    kept = by_id.keys() if candidates is None else {t.id for t in threads} | {c.named().id for c in candidates}
    names = {t.id: called(t, manuscript.text, story.language) for t in by_id.values()}
    voicing = Voicing(manuscript)
    scenes = []
    parts = list(manuscript.scenes())
    notes = [p for p in manuscript.passages if p.kind == "art"]
    read = [story.pieces(i) for i in range(len(parts))]
    listed = manuscript.by_pages and bool(manuscript.framings)  # a shot list: all that it says is to be seen
    art = {p.start for pieces in read for p in pieces if (listed and not p.dialogue) or (notes and _within(p, notes))}
    total = sum(p.words for pieces in read for p in pieces)
    usual = BOOK_WORDS if medium == "book" else (pace or Pace()).words_per_minute / 60 * SHOT_S
    usual = own_measure(manuscript, usual)
    for (heading, passages), pieces in zip(parts, read, strict=True):
        title = heading.words if heading else ""
        here = tuple(dict.fromkeys(m.id for m in _named_in_heading(title, list(by_id.values()))))
        told = time = story.heading_time(title) if title else ""
        share = sum(p.words for p in pieces) / max(1, total)
        start = heading.start if heading else (passages[0].start if passages else 0)
        end = max([p.end for p in passages], default=heading.end if heading else start)
        if bisect_left(manuscript.panels, end) > bisect_left(manuscript.panels, start):
            why = A_PART if manuscript.in_parts else A_PAGE if manuscript.by_pages else A_PANEL
            parted = panelled(pieces, manuscript.panels, why)
        else:
            parted = moments(pieces, usual, None if wanted is None else max(1, round(wanted * share)))
        shots = []
        for i, moment in enumerate(parted):
            group = list(moment.pieces)
            heard = voicing.of(group[0].start, group[-1].end)
            shot = _shot(
                group,
                moment,
                first=i == 0,
                by_id=by_id,
                pace=pace or Pace(),
                voices=heard,
                names=names,
                language=story.language,
                art=art,
            )
            if manuscript.framings:
                told_of = manuscript.framings[bisect_right(manuscript.panels, group[0].start) - 1]
                shot = replace(
                    shot,
                    size=told_of.size or ("MS" if told_of.angle == "over the shoulder" else shot.size),
                    angle=told_of.angle or shot.angle,
                    move=told_of.move or shot.move,
                    length_s=told_of.seconds or shot.length_s,
                )
            if manuscript.forms:
                shot = replace(shot, page_form=manuscript.forms[bisect_right(manuscript.panels, group[0].start) - 1])
            shot = replace(shot, time=story.time(" ".join(p.text for p in group), time))
            shots.append(
                replace(shot, cast=_of(shot.cast, kept), places=_of(shot.places, kept), props=_of(shot.props, kept))
            )
            time = shots[-1].time
        if shots or title:
            scenes.append(ProposedScene(title, start, end, tuple(shots), _of(here, kept), told))
    return scenes


def told_in(
    manuscript: Manuscript, threads: Sequence[Named], stretches: Sequence[tuple[int, int]]
) -> list[tuple[str, ...]]:
    """Which threads run through each stretch of the text (start, end) by its words, pronouns included: who is to be seen, where, with what. A sentence
    counts where more than half of it lies, or all of a stretch lies in it."""
    story = story_of(manuscript, tuple(threads))
    pieces = [p for i, _ in enumerate(manuscript.scenes()) for p in story.pieces(i)]
    begins, known = [p.start for p in pieces], {t.id for t in threads}
    found = []
    for start, end in stretches:
        near = pieces[max(0, bisect_right(begins, start) - 1) : bisect_left(begins, end)]
        group = [
            p for p in near if 2 * (min(p.end, end) - max(p.start, start)) > min(p.end - p.start, 2 * (end - start) - 1)
        ]
        everyone = [t for p in group for t in (*p.people, *p.props)]
        found.append(_of(tuple(dict.fromkeys([*everyone, *([place] if (place := _place_of(group)) else [])])), known))
    return found


def own_measure(manuscript: Manuscript, usual: float) -> float:
    """How many words a paragraph of the text has, with what is said behind it, where it is told in short ones: whoever writes so thinks of pictures."""
    told: list[int] = []
    for p in manuscript.passages:
        if p.kind == "action" and manuscript.said_in(p) and told:
            told[-1] += len(p.words.split())
        elif p.kind == "action":
            told.append(len(p.words.split()))
    return min(usual, max(LEAST_WORDS, median(told))) if len(told) >= SEVERAL else usual


def _within(piece: Piece, passages: Sequence[Passage]) -> bool:
    """Whether a piece is a part of one of some passages, in order."""
    i = bisect_right(passages, piece.start, key=lambda p: p.start)
    return i > 0 and piece.start < passages[i - 1].end


def _of(ids: Sequence[str], kept: Container[str]) -> tuple[str, ...]:
    return tuple(i for i in ids if i in kept)


def _named_in_heading(title: str, everyone: Sequence[Named]) -> list[Mention]:
    """Settings that a heading names, whatever its capitals."""
    settings = [
        replace(t, name=t.name.casefold(), aliases=tuple(a.casefold() for a in t.aliases))
        for t in everyone
        if t.kind == "setting"
    ]
    return Reader(settings).mentions(title.casefold()) if title and settings else []


def _shot(
    group: list[Piece],
    moment: Moment,
    *,
    first: bool,
    by_id: dict[str, Named],
    pace: Pace,
    voices: Voices,
    names: Mapping[str, str],
    language: Language,
    art: Container[int],
) -> ProposedShot:
    told = [p for p in group if p.start in art] or ([p for p in group if not p.speech] if moment.why == A_PANEL else [])
    text = " ".join(" ".join(p.text.split()) for p in told or group)
    english = text if language.name == "English" else ""
    cast = tuple(dict.fromkeys(name for p in group for name in p.people))
    place = _place_of(group)
    nobody = sorted(group, key=lambda p: -len(p.nouns)) if len(group) > 1 else group
    shown_piece = max(
        [p for p in group if p.people and not p.speech] or [p for p in group if p.people][:1] or nobody[:1],
        key=lambda p: (_named_in(p), bool(p.actors), bool(p.nouns)),
    )

    def sentence(p: Piece) -> str:
        return shown(p.text, p.start, p.mentions, p.lines, by_id, names, language)

    if told and moment.why in (A_PAGE, A_PART):
        shows = _noted(told, sentence, by_id)
        read_too = any(p.start not in art and not p.dialogue for p in group)
        if cast and read_too and not any(p.people for p in told):
            shows = f"{sentence(shown_piece)} {shows}"
    elif told:
        shows = described(told, by_id)
    else:
        whole = " ".join(" ".join(p.text.split()) for p in group)
        nobody_speaks = not cast and not any(p.speech for p in group)
        shows = whole if nobody_speaks and len(whole) <= SHOWS_MOST else sentence(shown_piece)
        speakers = tuple(dict.fromkeys(x.speaker for p in group for x in p.lines if x.speaker in cast))
        if shown_piece.speech and len(speakers) > 1 and shows == sentence(shown_piece) and english:
            *others, last = (names[i] for i in speakers)
            shows = _capital(language.speak.format(f"{', '.join(others)} and {last}"))
        if shown_piece.speech and (seen := [p for p in group if not p.speech]):
            more = (
                f"{sentence(seen[0])} {shows}" if seen[0].start < shown_piece.start else f"{shows} {sentence(seen[-1])}"
            )
            shows = more if len(more) <= SHOWS_MOST else shows
        elif not nobody_speaks and not shown_piece.speech:
            shows = _with_others(group, shown_piece, sentence, language.subjects)
    return ProposedShot(
        group[0].start,
        group[-1].end,
        shows,
        cast,
        (place,) if place else (),
        (told and next((size for pattern, size in _FRAMED if pattern.search(told[0].text)), ""))
        or _size(english, len(cast), establishing=first and bool(place), speech=group[0].speech),
        shot_time(voices, pace).length_s,
        tuple(line for p in group for line in p.lines),
        tuple(dict.fromkeys(prop for p in group for prop in p.props)),
        next((angle for pattern, angle in _ANGLES if pattern.search(english)), "eye level")
        if _ANY_ANGLE.search(english)
        else "eye level",
        why=moment.why,
        sure=moment.sure,
    )


def _with_others(
    group: Sequence[Piece], shown_piece: Piece, sentence: Callable[[Piece], str], subjects: Container[str]
) -> str:
    """The sentence that names most of a picture's people, with those beside it that name the others or tell what is around them, as long as a picture can
    say them; `subjects` are pronouns by which a sentence only goes on."""
    told = {shown_piece.start: sentence(shown_piece)}
    named = set(shown_piece.people) if len(shown_piece.people) <= MOST_NAMED else _names_in(shown_piece)
    for piece in group:
        fresh = _names_in(piece) - named
        goes_on = piece.text.split(" ", 1)[0].casefold() in subjects  # `It is colder than it looks`
        around = piece.nouns and not piece.people and not goes_on
        if piece.speech or not (fresh or around) or " " not in piece.text:  # `Clack.`
            continue
        more = sentence(piece)
        most = SHOWS_MOST if fresh or piece.start < shown_piece.start else BRIEFLY
        if len(more) + sum(len(words) + 1 for words in told.values()) <= most:
            told[piece.start] = more
            named |= fresh
    return " ".join(told[start] for start in sorted(told))


def _names_in(piece: Piece) -> set[str]:
    """Whom of its people a piece names."""
    return {m.id for m in piece.mentions if not m.pronoun} & set(piece.people)


def _named_in(piece: Piece) -> int:
    """How many of its people a piece names, or may name where one pronoun gives way to its name."""
    people = {m.id for m in piece.mentions if m.id in piece.people}
    named = _names_in(piece)
    return len(named) + (len(people) > len(named))


def _place_of(group: Sequence[Piece]) -> str:
    """Where a picture of some pieces is: where they go most surely, else where they begin."""
    told = max((p for p in group if p.new_place), key=lambda p: p.stated, default=None)
    return told.place if told else next((p.place for p in group if p.place), "")


def shown(
    text: str,
    at: int,
    mentions: Sequence[Mention],
    lines: Sequence[Line],
    by_id: dict[str, Named],
    names: Mapping[str, str],
    language: Language,
) -> str:
    """What one picture shows, as a still description in the text's language: who speaks for a speech, else the sentence, its first pronoun
    replaced by the name it stands for, and (in English) without what is said in it. `names` tells how the text calls each."""
    outside = without_speech(text).strip(" ,.–—")
    if lines and (len(outside.split()) < 4 or text == lines[0].words):
        speaker = by_id.get(lines[0].speaker)
        who = _capital(names[speaker.id]) if speaker else language.somebody
        several = speaker is not None and not speaker.name[:1].isupper() and lx.singular(speaker.name) != speaker.name
        says = language.speak if several and language.speak else language.speaks
        return says.format(who) if who else _capital(text)
    pronoun = next(
        (
            m
            for m in sorted(mentions, key=lambda m: m.start)
            if m.pronoun and text[m.start - at : m.end - at].casefold() in language.subjects | language.several
        ),
        None,
    )
    words = text
    if pronoun:
        meant = list(dict.fromkeys(m.id for m in mentions if m.pronoun and m.start == pronoun.start))
        named_first = any(not m.pronoun and m.id in meant and m.start < pronoun.start for m in mentions)
        several = text[pronoun.start - at : pronoun.end - at].casefold() in language.several
        if not named_first and (1 < len(meant) <= MOST_NAMED if several else len(meant) == 1):
            *others, last = (names[i] for i in meant)
            who = f"{', '.join(others)} and {last}" if others else last
            words = text[: pronoun.start - at] + who + text[pronoun.end - at :]
    words = _plainly(words, (by_id[i] for i in dict.fromkeys(m.id for m in mentions)))
    if language.name == "English":
        words = unspoken(words)
    plain = _capital(" ".join(words.split()))
    return plain if len(plain) <= SHOWS_MOST else plain[: SHOWS_MOST - 3].rsplit(" ", 1)[0] + " …"


def called(somebody: Named, text: str, language: Language = ENGLISH) -> str:
    """How a text calls somebody in a sentence: a noun with an article, and a name that mostly has one (`the Moon`).

    >>> called(Named("m", "Moon"), "The Moon rose. Then the Moon sank."), called(Named("p", "Pell"), "Pell sat. The Pell family sat.")
    ('the Moon', 'Pell')
    >>> from juxtaform.core.text.languages import FRENCH, GERMAN
    >>> called(Named("w", "Wolke"), "Die Wolke kam. Dann ging die Wolke.", GERMAN), called(Named("o", "oie"), "L’oie dort.", FRENCH)
    ('die Wolke', 'l’oie')
    """
    name = somebody.name
    small = not name[:1].isupper()
    if name == "I" or (small and language.name == "English"):
        return name if name == "I" else f"the {name}"
    counted = [
        (
            text.count(f"{a} {name}") + text.count(f"{_capital(a)} {name}")
            if a[-1].isalpha()
            else len(re.findall(rf"\b{a}{re.escape(name)}", text, re.IGNORECASE)),
            a,
        )
        for a in language.articles
    ]
    if small and not any(n for n, _ in counted):  # `la petite fille`
        behind = [(len(re.findall(rf"\b{a} [\w’-]+ {re.escape(name)}\b", text, re.IGNORECASE)), a) for _, a in counted]
        counted = [(n, a) for n, a in behind if a[-1].isalpha()]
    times, article = max(counted, key=lambda c: c[0], default=(0, ""))
    if not times or (not small and 2 * times <= text.count(name)):
        return name
    return f"{article} {name}" if article[-1].isalpha() else f"{article}{name}"


def described(told: Sequence[Piece], by_id: dict[str, Named]) -> str:
    """All that a panel's own description says, names in capitals written plainly: it is a still description already."""
    names = {m.id for p in told for m in p.mentions}
    words = _plainly(" ".join(" ".join(p.text.split()) for p in told), (by_id[i] for i in names))
    return words if len(words) <= PANEL_MOST else words[: PANEL_MOST - 3].rsplit(" ", 1)[0] + " …"


def _noted(told: Sequence[Piece], sentence: Callable[[Piece], str], by_id: dict[str, Named]) -> str:
    """What a note says is to be seen, its first pronoun replaced by the name."""
    first, *others = told
    words = f"{sentence(first)} {described(others, by_id)}".strip()
    return words if words[-1:] in ".!?…" else f"{words}."


def _plainly(words: str, named: Iterable[Named]) -> str:
    for t in named:
        if t.kind == "character" and len(t.name) > 1:
            words = re.sub(rf"\b{re.escape(t.name.upper())}\b", t.name, words)
    return words


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]


def _size(text: str, people: int, *, establishing: bool, speech: bool) -> str:
    """A trade size from the words: wide for places, crowds and a scene's first picture, close for faces and hands."""
    if establishing:
        return "WS"
    if people == 0 and _DETAIL.search(text) and not _WIDE.search(text):
        return "CU"
    if people <= 1 and _CLOSE.search(text):
        return "CU"
    if speech and people <= 1:
        return "MCU"
    if _WIDE.search(text) or people >= 3:
        return "WS"
    return "MS"
