"""What no picture can show: clauses that tell what is thought or felt, what was or will be, what could be, what never is."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise

from juxtaform.core.brief.showing import FEELS, IN_HEAD, may_be_now, shows_nothing
from juxtaform.core.text.english import lexicon as lx
from juxtaform.core.text.english.deeds import Deed, Sentence
from juxtaform.core.text.english.phrases import Phrase
from juxtaform.core.text.lists import word_lists

_LISTS = word_lists("juxtaform.core.brief")

EDGE = 0.3
"""From these log odds on a sentence for which no rule speaks tells nothing that can be drawn."""
_PROMISES = _LISTS.words("promises")
_RULES = _LISTS.words("rules")
_NOT_FOR_THE_EYE = _LISTS.words("not for the eye")
_TO_THE_EAR = _LISTS.words("to the ear")


def unshown(sentences: Sequence[tuple[int, Sentence]]) -> tuple[tuple[int, int, str], ...]:
    """Clauses that no picture can show, with what keeps them from it: start, end, and the reason; none lies in another."""
    found = list(_clauses(sentences))
    if (nothing := _nothing_shown(sentences)) is not None:
        found += [nothing] if _apart(nothing, found) else []
    for offset, s in sentences:
        whole = offset + s.start, offset + s.end, "little that could be seen"
        asked_beside = len(sentences) > 1 and s.tokens and s.tokens[-1].text == "?"
        if not s.tokens or asked_beside or _tells_it_is_empty(s):
            continue
        if shows_nothing(s) > EDGE and _apart(whole, found):
            found.append(whole)
    return tuple(found)


def _tells_it_is_empty(s: Sentence) -> bool:
    """Whether a sentence tells that nobody is there: an empty place can be drawn."""
    d = s.deeds[0] if len(s.deeds) == 1 else None
    nobody = d is not None and len(d.subjects) == 1 and d.subjects[0].pronoun in ("nobody", "none")
    there = d is not None and (bool(d.at) or any(t.low in ("there", "here") for t in s.tokens if t.start >= d.end))
    return d is not None and d.verb == "be" and nobody and there and not (d.modal or d.perfect or d.past)


def _apart(clause: tuple[int, int, str], others: Sequence[tuple[int, int, str]]) -> bool:
    return not any(a < clause[1] and clause[0] < b for a, b, _ in others)


def _clauses(sentences: Sequence[tuple[int, Sentence]]) -> Iterator[tuple[int, int, str]]:
    for offset, s in sentences:
        tokens = s.tokens
        if not tokens:
            continue
        if (hidden := next((t for t in tokens if t.low == "invisible"), None)) is not None:
            yield offset + hidden.start, offset + hidden.end, "what cannot be seen"
            continue
        present = any(d.finite and not d.past for o, x in sentences for d in x.deeds)
        end = offset + s.end
        if len(tokens) > 2 and tokens[0].low == "if" and tokens[1].low == "only":
            yield offset + tokens[0].start, end, "what is wished for"
            continue
        for i, t in enumerate(tokens[:-1]):
            if (
                t.low == "used" and tokens[i + 1].low == "to" and (i == 0 or tokens[i - 1].tag in "NSPU")
            ) or t.low == "ought":
                begin = next(
                    (
                        tokens[k].start
                        for k in range(i, -1, -1)
                        if tokens[k].low in ("where", "that", "which", "who", "as")
                    ),
                    tokens[0].start,
                )
                stop = next((x.start for x in tokens[i:] if x.text in ",;:—–"), s.end)
                yield offset + begin, offset + stop, "what was or ought to be"
                break
        else:
            for d in s.deeds:
                if not d.finite or d.relative:
                    continue
                if d is s.deeds[0] and _is_not_seen(s, d):
                    yield offset + tokens[0].start, end, "what no eye sees"
                    break
                ago = d.past and any(t.low in ("yesterday", "ago") for t in tokens)
                if ago:
                    yield offset + tokens[0].start, end, "what was before"
                    break
                nobody = bool(d.subjects) and d.subjects[0].pronoun in ("nobody", "none") and d.does("ST") > 0.4
                if nobody and d.past:
                    yield offset + tokens[0].start, end, "what nobody said"
                    break
                if (
                    d.verb in IN_HEAD
                    and not (d.verb == "mean" and not d.subjects)
                    and (
                        d.verb != "know"
                        or d.objects
                        or (nobody and len(d.subjects) == 1)
                        or _of_a_clause(s, d)
                        or any(q.prep in ("of", "about") for q in d.at)
                    )
                    and (d.subjects or d.denied)
                    and d.modal != "may"
                    and not (d.verb == "think" and d.at)
                ):
                    yield offset + d.start, end, "what goes on in somebody’s head"
                    break
                if (
                    present
                    and d.past
                    and not may_be_now(d)
                    and not d.supposed
                    and not d.perfect
                    and d is s.deeds[0]
                    and not any(x.finite and not x.past for x in s.deeds)
                ):
                    yield offset + tokens[0].start, end, "what was before"
                    break
                if (
                    d.perfect
                    and (d.denied or any(q.pronoun in ("nothing", "nobody") for q in d.objects))
                    and any(q.prep == "since" for q in d.at)
                ):
                    yield offset + tokens[0].start, end, "what was not before"
                    break
                if any(q.head == "dream" and q.prep == "in" for q in d.at):
                    yield offset + tokens[0].start, end, "what goes on in somebody’s head"
                    break


def _is_not_seen(s: Sentence, d: Deed) -> bool:
    """Whether a sentence tells of a smell, a silence or another day: `It smells of apples`, `It is too quiet`, `Tomorrow is Christmas`."""
    it = len(d.subjects) == 1 and d.subjects[0].pronoun == "it"
    thing = bool(d.subjects) and not any(x.name or x.pronoun or lx.living(x.head) >= 0.3 for x in d.subjects)
    if d.verb in _NOT_FOR_THE_EYE and (it or (thing and d.verb != "sound")):
        return True  # `The hut smells of cheese`
    if it and d.verb == "be" and d.says_of in _TO_THE_EAR:
        return True
    return d.verb == "be" and s.tokens[0].low in ("tomorrow", "yesterday")


def _nothing_shown(sentences: Sequence[tuple[int, Sentence]]) -> tuple[int, int, str] | None:
    """Words of which no clause says what is now and is so, with what the first of them tells instead: start, end, and the reason."""
    told: tuple[int, int, str] | None = None
    if sentences and all(
        s.tokens and s.tokens[-1].text == "?" and s.tokens[0].tag != "Q" and s.deeds for _, s in sentences
    ):
        (first, one), (last, other) = sentences[0], sentences[-1]
        return first + one.start, last + other.end, "what is only asked"
    for offset, s in sentences:
        since = next((t.start for t in s.tokens[1:] if t.low == "since"), s.end + 1)
        where = next((t.start for t in s.tokens[1:] if t.low in ("where", "before")), s.end + 1)
        of_another = {t.start for t in s.tokens if t.low == "being"} | {
            t.start for t in s.tokens if t.start >= min(since, where)
        }
        of_another |= {d.start for be, d in pairwise(s.deeds) if be.verb == "be" and _is_said_of(s, be, d)}
        main = [d for d in s.deeds if d.finite and not d.relative and not d.supposed and d.start not in of_another]
        asked = bool(s.tokens) and s.tokens[-1].text == "?"
        if not main and s.phrases and not asked:
            return None
        for d in main:
            reason = _not_now(s, d)
            if reason is None and not asked:
                return None
            if reason is not None and told is None:
                told = offset + s.start, offset + s.end, reason
    return told


def _not_now(s: Sentence, d: Deed) -> str | None:
    """What a clause tells that is not now, or is not so: what could be, what will be, what has been all the time or never, what is nowhere."""
    low = [t.low for t in s.tokens]
    if d.modal in ("would", "could", "might") and (not d.denied or "never" in low):
        return "what could be"
    if s.tokens[0].low in ("whoever", "whenever") or (
        s.tokens[0].low == "if" and s.tokens[1:2] and s.tokens[1].low != "only"
    ):
        return "what may be or is now and then"
    if (
        d.modal == "must"
        and not d.denied
        and (d.perfect or d.tag in "BG" or "be" in {t.low for t in s.tokens if d.start <= t.start < d.end})
    ):
        return "what somebody supposes"
    if d.modal == "will" and not d.denied:
        return "what is still to come"
    nobody = bool(d.subjects) and d.subjects[0].pronoun in ("nobody", "none")
    if d.perfect and any(t.low in ("had", "'d", "’d") and t.end <= d.end for t in s.tokens):
        return "what was before"
    if d.perfect:
        lasting = "since" in low or any(q.prep == "for" and q.several and _is_time(q) for q in d.at)
        lasting = lasting or any(q.head == "time" and q.several for q in d.objects)
        lasting = lasting or any(q.prep == "for" and q.head in ("life", "lifetime", "age") for q in d.at)
        if lasting or nobody or ("never" in low and "so" not in low):
            return "what was or was not before"
    elif not d.modal and _with(s, d, "never"):
        return "what never happens"
    if not d.modal and not d.past and _with(s, d, "always"):
        return "what is always so"
    if d.past and any(_is_time(p) and p.det == "that" for p in s.phrases):
        return "what was before"
    if d.past and any(a == "once" and b not in ("more", "again") for a, b in pairwise([*low, ""])) and "at" not in low:
        return "what was before"
    if d.subjects and not d.passive and any(_is_felt(d.verb, p) for p in d.objects):
        return "what somebody feels"
    if d.verb in FEELS and next((t.low for t in s.tokens if t.start >= d.end), "").endswith("ing"):
        return "what somebody feels"
    if d.passive and d.verb in _RULES:
        return "what is a rule"
    if _in_general(d):
        return "what is so in general"
    if d.verb in _PROMISES and next((t.low for t in s.tokens if t.start >= d.end), "") in ("to", "never"):
        return "what is still to come"
    if d.modal == "can" and nobody:
        return "what nobody is able to do"
    if d.modal == "can" and any(q.prep == "than" for q in d.at):
        return "what somebody is able to do"
    if d.verb == "exist" and d.denied:
        return "what is nowhere"
    nowhere = any(q.head in ("world", "earth") or "whole" in q.described for q in d.at) or "ever" in d.particles
    if d.subjects and d.subjects[0].det == "no" and nowhere:
        return "what is nowhere"
    return None


def _is_said_of(s: Sentence, be: Deed, d: Deed) -> bool:
    """Whether a participle says how somebody is: `is never satisfied`, `are strictly forbidden`."""
    between = [t for t in s.tokens if be.end <= t.start < d.start]
    return d.tag in "ED" and all(t.tag in "Rn" for t in between)


def _in_general(d: Deed) -> bool:
    """Whether a clause tells how a kind is: `Trolls are afraid of daylight`, `Every canal has its queen`."""
    if d.verb not in ("be", "have") or not d.subjects or any(q.prep not in ("of", "than", "like") for q in d.at):
        return False
    p = d.subjects[0]
    kind = p.several and not (p.det or p.owning or p.owner or p.pronoun or p.name or p.count > 1)
    return p.det == "every" or (kind and d.verb == "be" and lx.living(p.head) > 0.45)


def _with(s: Sentence, d: Deed, word: str) -> bool:
    """Whether `never` or `always` stands with a deed: `never lets go`, `is never satisfied`; not `never without her hat`."""
    before = max((x.end for x in s.deeds if x.end <= d.start and x.verb != "be"), default=s.start)
    for t, after in pairwise(s.tokens):
        if t.low == word and (
            (before <= t.start < d.start and after.tag != "I") or (d.verb == "be" and t.start == d.end + 1)
        ):
            return True
    return False


def _of_a_clause(s: Sentence, d: Deed) -> bool:
    """Whether a clause is what is known: `knows that owls eat shrews`."""
    return next((t.low for t in s.tokens if t.start >= d.end), "") in (
        "that",
        "how",
        "where",
        "what",
        "why",
        "who",
        "whether",
    )


def _is_felt(verb: str, p: Phrase) -> bool:
    """Whether a verb tells a feeling for what a phrase means; who misses somebody or a place longs for it, who misses a step does not."""
    if verb == "miss":
        return bool(p.name) or lx.living(p.head) > 0.45 or lx.meaning(p.head).share("RHWL") > 0.5
    return verb in FEELS


def _is_time(p: Phrase) -> bool:
    return not p.name and lx.meaning(p.head).share("T") > 0.5
