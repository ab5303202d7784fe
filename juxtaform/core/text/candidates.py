"""Who and what a text names that is no thread yet: candidates for characters, settings and props, by how they act."""

from __future__ import annotations

import re
from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

from juxtaform.core.text.lexicon import (
    ADJECTIVES,
    ANIMATE,
    FUNCTION_WORDS,
    HANDLING,
    IRREGULAR_PAST,
    ONLY_LIVING,
    PLACE_BY,
    PLACE_NOUNS,
    SAYING,
    THINGS_THAT_GO,
)
from juxtaform.core.text.manuscript import Manuscript
from juxtaform.core.text.names import NEW, SENTENCE_START, Named, ThreadKind, heading_place, narration, titled

_PROPER = re.compile(
    r"\b(?:(?:Mr|Mrs|Ms|Dr|St|Prof)\.\s)?[A-ZÀ-ÞŁŠŽ][\w’'\-]*(?:\s(?:of\s|the\s)?[A-ZÀ-ÞŁŠŽ][\w’'\-]*)*"
)
_ANIMATE = re.compile(
    r"\b(?:the|a|an|his|her|their|its|my|your|our|every|each|this|that|two|three|four|five|some|no)\s+"
    rf"((?:(?:{'|'.join(sorted(ADJECTIVES))})\s+){{0,2}})({'|'.join(sorted(ANIMATE, key=len, reverse=True))})(s?)\b(?!\s+(?-i:[A-Z])\w)",
    re.IGNORECASE,
)
_PLACES = "|".join(
    [
        r"(?!mushroom|broom|(?:bride)?groom|steward)[a-z]+(?:house|room|yard|field|shop)",
        *sorted(PLACE_NOUNS, key=len, reverse=True),
    ]
)
_PLACE = re.compile(
    rf"\b(?:{PLACE_BY}|stood|stands|lay|lies|there was|there is)\s+(?:(?:the|a|an|his|her|their|its|your|our|my|this|that)\s+)?"
    rf"((?:[\w\-]+\s+){{0,2}}?)((?:{_PLACES})(?:\s+(?:{_PLACES}))?)\b(?!\s+(?:day|morning|night|evening|time|wheel)s?\b)|\bthe\s+({_PLACES})\s+(?:is|was|lay|lies|looks|looked)\b",
    re.IGNORECASE,
)
_LIVING = re.compile(
    rf"\b(?i:the|a|an|his|her|their|its|my|your|our|one)\s+((?:(?:{'|'.join(sorted(ADJECTIVES))})\s+){{0,2}})([a-z]{{3,}})\s+"
    rf"(?:only\s+|then\s+|just\s+|never\s+|always\s+)?(?:{'|'.join(sorted(ONLY_LIVING))})\b"
)
_NOUN = rf"(?:(?:{'|'.join(sorted(ADJECTIVES))})\s+){{0,2}}({'|'.join(sorted(ANIMATE, key=len, reverse=True))})"
_BESIDE = re.compile(
    rf"\b[Tt]he\s+{_NOUN},\s+({_PROPER.pattern}),|({_PROPER.pattern}),\s+(?:a|an|the|her|his|their)\s+{_NOUN}\b(?!\s+and\b)"
)
_SPEAKING = re.compile(rf"\b(?:{SAYING})\s+the\s+((?:(?:{'|'.join(sorted(ADJECTIVES))})\s+){{0,2}})([a-z]{{3,}})\b")
_NAMED_PLACE = re.compile(
    rf"\b(?:the|a|an|one|our|my|his|her|their|your|this|that)\s+(?:[a-z\-]+\s+)?({_PLACES})\b", re.IGNORECASE
)
_PROP = re.compile(
    rf"\b(?:{HANDLING})\s+(?:down\s+|up\s+)?(?:the|a|an|his|her|their|its|your|my)\s+((?:[a-z\-]+\s+){{0,2}}?)([a-z\-]{{3,}})\b",
    re.IGNORECASE,
)


@dataclass(frozen=True)
class Candidate:
    """Somebody or something that a text names and that is no thread yet, with how often it is named."""

    kind: ThreadKind
    name: str
    aliases: tuple[str, ...]
    mentions: int

    def named(self) -> Named:
        return Named(NEW + self.name, self.name, self.aliases, self.kind)


def discovered(manuscript: Manuscript, known: Sequence[Named] = ()) -> list[Candidate]:
    """Characters, settings and props that a text names, those of `known` left out; most mentioned first in each kind."""
    text = narration(manuscript)
    known_names = {w.casefold() for n in known for w in (n.name, *n.aliases)}
    cues = Counter(titled(p.name) for p in manuscript.passages if p.kind == "character")
    also = _called_so(text)
    people = [Candidate("character", name, (name.upper(), *also[name]), count) for name, count in cues.items()]
    people += _proper_people(text, {c.name.casefold() for c in people}, also)
    people += _common_people(text, people)
    people += _grammatical_person(text)
    places = _places(manuscript, text)
    names = {w.casefold() for c in [*people, *places] for w in (c.name, *c.aliases)}
    props = [c for c in _props(text) if c.name not in names and c.name not in PLACE_NOUNS and c.name not in ANIMATE]
    known_names |= {part for n in known if n.kind == "setting" for part in _forms(n.name)}
    found = [
        c for c in [*people, *places, *props] if not any(w.casefold() in known_names for w in (c.name, *c.aliases))
    ]
    return sorted(found, key=lambda c: (("character", "setting", "prop").index(c.kind), -c.mentions, c.name))


def _forms(name: str) -> set[str]:
    """The words of a setting's name, with and without a plural ending: its parts are not places of their own."""
    words = re.findall(r"\w+", name.casefold())
    return {*words, *(w.removesuffix("s") for w in words)}


def _proper_people(text: str, cues: set[str], also: defaultdict[str, list[str]]) -> list[Candidate]:
    """Capitalised names that act: followed by a verb, after a speech verb, or with a possessive and more than once."""
    counts: Counter[str] = Counter()
    acts: Counter[str] = Counter()
    places: Counter[str] = Counter()
    small = set(re.findall(r"(?<!\w)[a-zà-þ][\w’'\-]*", text))
    for m in _PROPER.finditer(text):
        words = [re.sub(r"['’]s$|['’]$", "", w) for w in m.group().split()]
        start = m.start()
        if SENTENCE_START.search(text[max(0, start - 12) : start]):
            while (
                words
                and words[0].casefold() in FUNCTION_WORDS | ADJECTIVES
                and (len(words) > 1 or words[0].casefold() in FUNCTION_WORDS)
            ):
                words = words[1:]
            if len(words) == 1 and words[0].lower() in small:
                continue
        words = [w for w in words if w.casefold() not in FUNCTION_WORDS or w in ("of", "the")]
        if not words or words[0].casefold() in FUNCTION_WORDS or len(words[0].strip(".")) < 2:
            continue
        name = " ".join(words)
        name = titled(name)
        counts[name] += 1
        before = text[max(0, start - 16) : start]
        after = re.match(r"(['’]s)|,?\s+(?:(?:was|is)\s+)?([\w’']+)", text[m.end() : m.end() + 30])
        verb = (after.group(2) or "").casefold() if after else ""
        if re.search(rf"\b(?:{SAYING})\s+$", before) or verb in IRREGULAR_PAST or re.fullmatch(r"\w{2,}(?:ed|s)", verb):
            acts[name] += 1
        elif re.search(r"\b(?:in|at|into|from|near|through)\s+$", before):
            places[name] += 1
    found = []
    parts: defaultdict[str, list[str]] = defaultdict(list)
    for name in counts:
        if " " in name:
            for word in name.split():
                if word in counts:
                    parts[name].append(word)
    inside = {w for words in parts.values() for w in words}
    for name, count in counts.items():
        if name in inside or name.casefold() in cues or places[name] > acts[name]:
            continue
        total = count + sum(counts[w] for w in parts[name])
        acting = acts[name] + len(also[name]) + sum(acts[w] for w in parts[name])
        last = name.split()[-1]
        aliases = tuple(
            dict.fromkeys([*parts[name], *([last] if " " in name and last[0].isupper() else []), *also[name]])
        )
        if acting or total >= 3:
            found.append(Candidate("character", name, aliases, total))
    return found


def _called_so(text: str) -> defaultdict[str, list[str]]:
    """Nouns set beside a name for the same person: `the postman, Mr. Quill`; `Hanneke, a girl with`."""
    found: defaultdict[str, list[str]] = defaultdict(list)
    for m in _BESIDE.finditer(text):
        name, noun = (m.group(2), m.group(1)) if m.group(2) else (m.group(3), m.group(4))
        found[titled(name)].append(noun.casefold())
    return found


def _common_people(text: str, people: list[Candidate]) -> list[Candidate]:
    """Nouns for people and animals that act or come back: `the dog`, `an old woman`."""
    forms: defaultdict[str, Counter[str]] = defaultdict(Counter)
    acts: Counter[str] = Counter()
    for m in (*_LIVING.finditer(text), *_SPEAKING.finditer(text)):
        noun = m.group(2).casefold()
        if noun in ANIMATE:
            acts[noun] += 1
        elif noun not in FUNCTION_WORDS | ADJECTIVES | PLACE_NOUNS:
            forms[noun][" ".join(m.group(1).casefold().split())] += 1
            acts[noun] += 1
    for m in _ANIMATE.finditer(text):
        single, plural = m.group(2).casefold(), bool(m.group(3))
        adjectives = m.group(1).casefold().split()
        kind = " ".join(a for a in adjectives if a not in ("first", "second", "last", "other", "very", "same"))
        forms[single][kind] += 1
        after = re.match(r",?\s+([\w’']+)", text[m.end() : m.end() + 20])
        verb = after.group(1).casefold() if after else ""
        opens = bool(SENTENCE_START.search(text[max(0, m.start() - 12) : m.start()]))
        if not plural and (opens or verb in IRREGULAR_PAST or re.fullmatch(r"\w{2,}(?:ed|s)", verb)):
            acts[single] += 1
    taken = {w.casefold() for c in people for w in (c.name, *c.aliases)}
    found = []
    for noun, seen in forms.items():
        total = sum(seen.values())
        if noun in taken or (total < 2 and not acts[noun]):
            continue
        kind, count = seen.most_common(1)[0]
        name = f"{kind} {noun}" if kind and count > 0.5 * total else noun
        found.append(Candidate("character", name, (noun,) if name != noun else (), total))
    return found


def _grammatical_person(text: str) -> list[Candidate]:
    """A narrator (`I`) or a reader (`you`) who acts in the pictures."""
    you = len(re.findall(r"\byou\b", text, re.IGNORECASE))
    narrator = len(re.findall(r"\bI\b", text))
    found = [Candidate("character", "you", ("your",), you)] if you >= 3 else []
    return found + ([Candidate("character", "I", ("me", "my", "we"), narrator)] if narrator >= 2 else [])


def _places(manuscript: Manuscript, text: str) -> list[Candidate]:
    found: dict[str, Candidate] = {}

    def put(name: str, count: int = 1) -> None:
        key = " ".join(w for w in name.casefold().split() if w not in ("the", "a", "an"))
        candidate = found.get(key)
        found[key] = Candidate(
            "setting", candidate.name if candidate else name, (), (candidate.mentions if candidate else 0) + count
        )

    for heading, _ in manuscript.scenes():
        place = heading_place(heading.words)[0] if heading else ""
        if place:
            put(re.sub(r"^(?:the|a|an)\s+", "", place, flags=re.IGNORECASE).capitalize())
    for m in _PLACE.finditer(text):
        if not re.search(r"\blike\b[^.!?]*$", text[max(0, m.start() - 30) : m.start()]):
            noun = (m.group(2) or m.group(3)).casefold()
            if m.group(2) or noun not in THINGS_THAT_GO:
                put(noun)
    named = Counter(m.group(1).casefold() for m in _NAMED_PLACE.finditer(text))
    for noun, count in named.items():
        if count >= 2 and noun not in THINGS_THAT_GO and not any(noun in k.split() for k in found):
            put(noun, count)
    heads = {k.split()[-1]: k for k in found if " " in k}
    for head, whole in [*heads.items(), *((h.removesuffix("s"), k) for h, k in heads.items() if h.endswith("s"))]:
        if head in found and head != whole:
            candidate = found.pop(head)
            found[whole] = Candidate(
                "setting", found[whole].name, (*found[whole].aliases, head), found[whole].mentions + candidate.mentions
            )
    return list(found.values())


def _props(text: str) -> list[Candidate]:
    handled = Counter(m.group(2).casefold() for m in _PROP.finditer(text))
    counts = Counter(re.findall(r"\w+", text.casefold()))
    found = []
    for noun in handled:
        total = counts[noun] + counts[f"{noun}s"]
        if total >= 2 and noun not in FUNCTION_WORDS and noun not in ADJECTIVES:
            found.append(Candidate("prop", noun, (), total))
    return found
