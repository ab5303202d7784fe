"""Parts of speech mended: what the best way through pairs of them cannot see in a sentence."""

from __future__ import annotations

from collections.abc import Sequence

from juxtaform.core.text.english import lexicon as lx

_CAUSES = lx.GRAMMAR.words("causes")
_ONES = lx.GRAMMAR.words("ones")


def mended(
    words: Sequence[tuple[str, int, int]], choices: Sequence[tuple[tuple[str, float], ...]], way: Sequence[str]
) -> list[str]:
    """What pairs of parts of speech cannot see: a verb that goes on behind a comma, one after two subjects, and a sentence without any verb."""
    best = list(way)

    def can(i: int, tags: str) -> str:
        return next((t for t, _ in choices[i] if t in tags), "")

    for i in range(2, len(best)):
        goes_on = (
            best[i] == "S" and best[i - 1] in ",C" and i + 1 < len(best) and best[i + 1] in "IoTYU" and "Z" in best[:i]
        )
        if goes_on and can(i, "Z"):
            best[i] = "Z"
        if _listed_deed(choices[i], best, i):
            best[i] = "Z"
        both = best[i] in "NS" and best[i - 1] in "PN" and "C" in best[max(0, i - 5) : i - 1] and best[0] in "PTN#SY"
        if (
            both
            and can(i, "V")
            and not any(t in "ZVDBHMO" for t in best[:i])
            and not any(t in "ZVDBHMO" for t in best[i + 1 : i + 3])
        ):
            best[i] = "V"
    for i in range(3, len(best)):
        if (
            best[i] in "ZVD"
            and best[i - 1] == "N"
            and can(i, "N")
            and _is_where([w for w, _, _ in words[:i]], best[:i])
        ):
            best[i] = "N"  # `They looked in the bicycle shed.`
    for i in range(len(best) - 2):
        body = words[i + 1][0].casefold() == "in" and lx.meaning(words[i + 2][0].casefold()).share("B") > 0.5
        if body and best[i] == "V" and (i == 0 or best[i - 1] in ",C") and can(i, "N"):
            best[i] = "N"  # `Tomas, wrench in hand`
    for i, (w, _, _) in enumerate(words[:-2]):
        done = words[i + 2][0].casefold()
        if best[i] not in "ZVD" or lx.lemma_by_tag(w, best[i]) not in _CAUSES or not can(i + 2, "V"):
            continue
        if best[i + 1] in "PU" and best[i + 2] == "N":
            best[i + 2] = "V"  # `That made Tom laugh`
        rather_a_deed = lx.word(done).pos.get("v", 0) > lx.word(done).pos.get("n", 0)
        if (
            words[i + 1][0].casefold() == "her"
            and best[i + 2] in "NJ"
            and rather_a_deed
            and _ends_a_clause(best, i + 3)
        ):
            best[i + 1 : i + 3] = ["U", "V"]  # `Tom made her laugh`
    if (other := _lacks_its_verb(best)) is not None:
        for j in range(len(best) - 1, other, -1):
            if best[j] in "NSEJ" and best[j - 1] in "NSPR" and (tag := can(j, "D") or can(j, "Z")):
                best[j] = tag  # `The old woman who lived in a shoe sang.`
                break
    for i in range(1, len(best) - 1):
        if best[i - 1] in "TY" and best[i] in "EGJR" and can(i, "N") and _begins_anew(words, best, i):
            best[i] = "N"  # `In the shed a man was sweeping`
    if not any(tag in "ZVDBHMO" for tag in best):
        for i in range(1, len(best)):
            agreeing = "ZD" if best[i - 1] in "PN" else "ZVD"  # one ticket punches, `the ticket punch` is a thing
            if best[i] in "NSEJ" and best[i - 1] in "PNSU" and (tag := can(i, agreeing)):
                best[i] = tag
                break
    for i, (w, _, _) in enumerate(words[:-2]):
        if (
            w.casefold() == "there"
            and best[i + 1] in "ZVDB"
            and best[i + 2] in "T#JNSYPE"
            and (i == 0 or best[i - 1] in ",CKQR.")
        ):
            best[i] = "X"
    return best


def _listed_deed(choice: Sequence[tuple[str, float]], way: Sequence[str], i: int) -> bool:
    """Whether a word that may be several things is the next deed of a list of them: `opens the box, grins and waves`."""
    if way[i] != "S" or way[i - 1] not in ",C" or i + 1 >= len(way) or way[i + 1] not in "C." or "Z" not in way[:i]:
        return False
    if way[i - 2] == "S" and (i < 3 or way[i - 3] not in "TYJ#"):
        return False  # `hears shouts, laughs and sobs`
    odds = dict(choice)
    return "Z" in odds and (odds["Z"] > odds.get("S", 0.0) or way[i - 2] == "Z")


def _ends_a_clause(way: Sequence[str], i: int) -> bool:
    return i >= len(way) or way[i] in ".,CKIR"


def _lacks_its_verb(way: Sequence[str]) -> int | None:
    """Where the verb of a relative clause stands, if it is the only one of a sentence that begins with a phrase; else None."""
    finite = [i for i, tag in enumerate(way) if tag in "ZVDBHMO"]
    begins = next((i for i, tag in enumerate(way) if tag == "W"), 0)
    of_a_phrase = begins > 1 and way[begins - 1] in "NSP" and all(tag in "TYJ#NSP" for tag in way[:begins])
    return finite[0] if of_a_phrase and len(finite) == 1 and finite[0] > begins else None


def _begins_anew(words: Sequence[tuple[str, int, int]], way: Sequence[str], i: int) -> bool:
    """Whether behind a word another phrase begins, so that the determiner before it has no other noun than this word."""
    following = words[i + 1][0].casefold()
    if way[i + 1] in "TY":
        return True
    if way[i + 1] == "P":
        return i > 1 and way[i - 2] == "I" and lx.meaning(words[i][0].casefold()).share("RHWL") > 0.5
    return way[i + 1] == "U" and following in lx.PRONOUNS - _ONES


def _is_where(words: Sequence[str], way: Sequence[str]) -> bool:
    """Whether words end with where a deed is done, so that no other deed can follow at once: a verb that takes no clause, and a preposition with its noun."""
    i = len(way) - 1
    while i > 0 and way[i] in "NJTY":
        i -= 1
    if i == 0 or way[i] not in "Io" or words[i].casefold() in ("with", "without"):
        return False  # `with the chart spread out on his belly`
    for k in range(i - 1, -1, -1):
        if way[k] in ",.CKQW":
            return False
        if way[k] in "ZVD":  # `I knew the man in the boat waved`
            alone = all(tag == "R" for tag in way[k + 1 : i])
            return alone or lx.word(lx.lemma_by_tag(words[k], way[k])).does("VTSFX") < 0.4
    return False
