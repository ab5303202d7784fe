"""What is told of sound, judged on truth: recordings and sequences with a known fault, and clean ones that must stay silent. One half of the cases is for
working on, the other is read when all is done."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from juxtaform.core.run.timeline import TimedShot, Timeline
from juxtaform.core.sound.aligned import said_in_voice
from juxtaform.core.sound.laying import LEAD_S, TAIL_S, Piece
from juxtaform.core.sound.levels import Holds, Span, held
from juxtaform.core.sound.notes import ShotWords, sound_notes
from tests.constructed_sounds import levels, music, noise, voice

CASES = 40
FAULTS = ("clips", "silent", "edge", "together", "longer", "hush", "unsaid", "other words", "cut off")
SENTENCES = (
    "The tide had been gone three days.",
    "Nobody knew why.",
    "She lifted the latch, and waited.",
    "Then, with a long sigh, the door under the light came open.",
    "It was darker than it looked.",
)


@dataclass
class _Case:
    """A sequence of voices over four shots, with one fault or none."""

    pieces: list[Piece]
    holds: dict[str, Holds]
    timeline: Timeline
    words: list[ShotWords]


def half() -> None:
    """The half of the cases that was worked on."""
    _judged(0)


def last() -> None:
    """The other half, for the end."""
    _judged(1)


def _judged(first: int) -> None:
    """Prints faults found by kind and false ones, and how far sentence ends that are laid on a voice lie from where they are."""
    found: Counter[str] = Counter()
    beside: Counter[str] = Counter()
    for fault in FAULTS:
        for k in range(CASES):
            told = set(_told(_case(fault, 2 * k + first)))
            found[fault] += fault in told
            beside.update(told - _with(fault))
    clean: Counter[str] = Counter()
    silent = 0
    for k in range(2 * CASES):
        told = set(_told(_case("", 1000 + 2 * k + first)))
        silent += not told
        clean.update(told)
    print(f"found of {CASES}: " + ", ".join(f"{fault} {found[fault]}" for fault in FAULTS))
    print(f"told beside the fault, in {CASES * len(FAULTS)} sequences: {dict(beside) or 'nothing'}")
    print(f"clean sequences that stay silent: {silent} of {2 * CASES} {dict(clean) or ''}")
    off = [d for k in range(CASES) for d in _sentence_ends(2 * k + first)]
    print(f"sentence ends off by: middle {np.median(off):.2f} s, nine tenths within {np.quantile(off, 0.9):.2f} s")


def _told(case: _Case) -> list[str]:
    return [n.kind for n in sound_notes(case.pieces, case.holds, case.timeline, case.words, {})]


def _with(fault: str) -> set[str]:
    """What may be told beside a fault, because it is the same."""
    same = {
        "silent": {"hush", "unsaid"},
        "unsaid": {"hush"},
        "edge": {"hush"},
        "longer": {"together", "cut off"},
        "other words": {"unsaid"},
    }
    return {fault} | same.get(fault, set())


def _spoken(rng: np.random.Generator, seconds: float) -> list[Span]:
    """When a voice is heard that speaks for so long, with pauses as people make them."""
    spans, at = [], 0.15
    while at < seconds - 0.4:
        end = at + rng.uniform(0.5, 2.2)
        if end > seconds - 1.1:  # what is left is said too: a clean recording ends soon after its last word
            end = seconds - 0.15
        spans.append((at, end))
        at = end + rng.uniform(0.2, 0.7)
    return spans


def _case(fault: str, seed: int) -> _Case:
    rng = np.random.default_rng(seed)
    at = int(rng.integers(4)) if fault not in ("hush", "cut off") else int(rng.integers(3))
    pieces, holds, lengths = [], {}, []
    lines = [" ".join(SENTENCES[(i + seed) % 5] for i in range(k, k + 2)) for k in range(4)]
    for k in range(4):
        seconds = float(rng.uniform(2.0, 6.0))
        room, level = float(rng.uniform(0.0002, 0.002)), float(rng.uniform(0.08, 0.5))
        wave = voice(
            _spoken(rng, seconds), seconds, level, min(room, level / 20), float(rng.uniform(90, 260)), seed + k
        )
        bad = k == at
        if bad and fault == "silent":
            wave = noise(seconds, 0.0003, seed)
        elif bad and fault == "edge":
            wave = np.concatenate([noise(rng.uniform(1.2, 3.0), min(room, level / 20), seed), wave])
        elif bad and fault == "clips":
            wave = wave / np.abs(wave).max() * float(rng.uniform(1.15, 2.0))
        key = str(k)
        seconds = len(wave) / 48_000
        holds[key] = held(*levels(wave))
        need = LEAD_S + seconds + TAIL_S
        lengths.append(need + float(rng.uniform(0, 1.2)))
        if bad and fault == "longer":
            lengths[-1] = 0.6 * (LEAD_S + seconds)
        if bad and fault == "hush":
            lengths[-1] = need + 6.0
        if not (bad and fault == "unsaid"):
            said = "Quite other words were said." if bad and fault == "other words" else lines[k]
            pieces.append(Piece(key, key, "voice", 0.0, seconds, line=said, heard=holds[key].heard, name=key))
    if fault == "together":
        first = pieces[at]
        late = max(0.0, LEAD_S + first.length_s * 0.4)
        holds["o"] = held(*levels(voice([(0.1, 1.4)], 1.5, 0.3, seed=seed)))
        pieces.append(Piece("o", first.shot, "voice", 0.0, 1.5, start_s=late, heard=holds["o"].heard, name="other"))
    if fault == "cut off":
        whole = sum(lengths[at:]) + 5.0
        holds["m"] = held(*levels(music(whole, 0.1, seed)))
        pieces.append(Piece("m", str(at), "music", 0.0, whole, heard=holds["m"].heard, name="song"))
    timeline = Timeline([TimedShot(str(k), "1", s) for k, s in enumerate(lengths)])
    return _Case(pieces, holds, timeline, [ShotWords(str(k), k + 1, (lines[k],)) for k in range(4)])


def _sentence_ends(seed: int) -> Sequence[float]:
    """How far sentence ends that are laid on a voice lie from where they are, in s: the voice says each at a pace of its own."""
    rng = np.random.default_rng(seed)
    text, spans, ends, at = "", [], [], 0.2
    for sentence in rng.permutation(SENTENCES)[:4]:
        pace = rng.uniform(0.05, 0.075)
        for phrase in str(sentence).split(", "):
            seconds = len(phrase) * pace
            spans.append((at, at + seconds))
            at += seconds + rng.uniform(0.0, 0.3) * (phrase != str(sentence).split(", ")[-1])
        ends.append(at)
        text += f"{sentence} "
        at += rng.uniform(0.25, 0.8)
    heard = held(*levels(voice(spans, at + 0.3, 0.3, seed=seed))).heard
    said = said_in_voice(text.strip(), heard)
    found = [w.end_s for w in said if text[w.start : w.end].endswith(".")]
    return [abs(a - b) for a, b in zip(found, ends, strict=True)]
