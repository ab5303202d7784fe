"""How likely it is that a sentence tells nothing that can be drawn: what its clause tells, weighed together (`data/showing.tsv`, set by `tools/fit_briefs.py`)."""

from __future__ import annotations

from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.deeds import Deed, Sentence
from juxtaform.core.text.english.phrases import Phrase
from juxtaform.core.text.lists import word_lists
from juxtaform.core.text.weights import weights_in

_LISTS = word_lists("juxtaform.core.brief")
IN_HEAD = _LISTS.words("in head") | lx.KNOWN.words("in mind")
"""Deeds of the mind."""
FEELS = _LISTS.words("feels") | lx.KNOWN.words("feels")
"""What somebody feels and does not show."""
_DEEDS = {
    "B": "body", "C": "change", "T": "thought", "S": "speech", "X": "contest", "E": "eating", "H": "touch", "K": "making", "F": "feeling", "M": "moving", "V": "seeing",
    "O": "having", "D": "dealing", "I": "being", "W": "weather",
}  # fmt: skip
_KINDS = {
    "P": "a person", "A": "an animal", "G": "people", "R": "a room", "H": "a house", "W": "a way", "L": "land", "V": "a vehicle", "K": "a container", "D": "furniture",
    "B": "a body", "C": "clothes", "F": "food", "N": "a plant", "T": "a time", "O": "a thing", "X": "no thing",
}  # fmt: skip
_CONCRETE = "OKDBCFNAHWLRV"
_WORDS = _LISTS.words("when and whether")
_BEHIND = _LISTS.words("behind a deed")
_SENTENCE_LONG = 20


def may_be_now(d: Deed) -> bool:
    """Whether a verb's past is as its present and several do it: `Tam and Mia read`."""
    return d.verb in lx.SAME_PAST and (len(d.subjects) > 1 or any(p.several for p in d.subjects))


def shows_nothing(s: Sentence) -> float:
    """The log odds that a sentence tells nothing that can be drawn: those of its clause that shows most."""
    weights = weights_in("juxtaform.core.brief", "showing.tsv")
    return min(sum(weights.get(term, 0.0) * value for term, value in clause.items()) for clause in terms(s))


def terms(s: Sentence) -> list[dict[str, float]]:
    """What each main clause of a sentence shows of whether it can be drawn: each term with how much of it there is, 0..1."""
    low = [t.low for t in s.tokens]
    found = {"any sentence": 1.0, "length": min(len(low), _SENTENCE_LONG) / _SENTENCE_LONG}
    if not low:
        return [found]
    main = [d for d in s.deeds if d.finite and not d.relative and not d.supposed]
    told = {
        "no deed": not s.deeds,
        "no main deed": not main,
        "asks": low[-1] == "?",
        "cries": low[-1] == "!",
        "supposes": any(d.supposed for d in s.deeds),
        **{f"the word {w}": w != "never" or "so" not in low for w in _WORDS.intersection(low)},
    }
    found |= {term: 1.0 for term, holds in told.items() if holds}
    plain = [p for p in s.phrases if not p.name and not p.pronoun]
    things = sum(lx.meaning(p.head).share(_CONCRETE) > 0.6 and p.prep != "of" for p in plain)
    found["things"] = min(things, 4) / 4
    found["no things"] = float(things == 0)
    found["names"] = min(sum(bool(p.name) for p in s.phrases), 2) / 2
    found["what is no thing"] = min(sum(lx.meaning(p.head).share("XT") > 0.7 for p in plain), 3) / 3
    return [found | _of_deed(s, d, low) for d in main] or [found]


def _of_deed(s: Sentence, d: Deed, low: list[str]) -> dict[str, float]:
    """The terms of one of a sentence's deeds."""
    found = {f"a deed of {name}": d.does(code) for code, name in _DEEDS.items()}
    told = {
        "is": d.verb == "be",
        "has": d.verb == "have",
        f"modal {d.modal}": bool(d.modal),
        "is denied": d.denied,
        "modal, denied": bool(d.modal) and d.denied,
        "past": d.past and not d.perfect and not may_be_now(d),
        "perfect": d.perfect,
        "had": d.perfect and "had" in low,
        "passive": d.passive,
        "in the mind": d.verb in IN_HEAD and not (d.verb == "think" and d.at),
        "a feeling": d.verb in FEELS,
        "no object": not d.objects,
        "nowhere": not d.at,
        "no subject": not d.subjects,
    }
    behind = next((t.low for t in s.tokens if t.start >= d.end), "")
    told[f"behind it {behind}"] = behind in _BEHIND
    for p in d.subjects[:1]:
        told |= {
            "a name does": bool(p.name),
            "a pronoun does": bool(p.pronoun),
            "nobody does": p.pronoun in ("nobody", "none") or p.det == "no",
            "it does": p.pronoun == "it",
            "each does": p.det in ("every", "each", "any"),
            "all do": p.pronoun in ("everything", "all", "everybody", "everyone"),
            "a kind does": not (p.name or p.pronoun or p.det or p.owning or p.owner) and p.several and p.count <= 1,
            "one does": p.det in ("a", "an"),
        }
        found |= _kinds("subject", p)
        found["the living do"] = 0.0 if p.name or p.pronoun else lx.living(p.head)
    for p in d.objects[:1]:
        told["to nothing"] = p.pronoun in ("nothing", "nobody") or p.det == "no"
        found |= _kinds("object", p)
    for p in d.at[:2]:
        told[f"preposition {p.prep}"] = bool(p.prep)
        for term, value in _kinds("at", p).items():
            found[term] = max(value, found.get(term, 0.0))
    return {k: v for k, v in found.items() if v} | {term: 1.0 for term, holds in told.items() if holds}


def _kinds(role: str, p: Phrase) -> dict[str, float]:
    """What a noun means, as the terms of its role."""
    if p.name or p.pronoun:
        return {}
    means = lx.meaning(p.head)
    return {f"{role}: {name}": means.share(code) for code, name in _KINDS.items()}
