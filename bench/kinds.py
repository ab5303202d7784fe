"""Every kind of finding that looks at pictures as files, at places, at cuts and at company, on constructed truth: each at three magnitudes, with clean ones
beside it. `python -m bench.run kinds` reads the half that was looked at while the terms were set, `kinds-last` the other half."""

from __future__ import annotations

import io
from collections import Counter, defaultdict
from collections.abc import Callable, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from multiprocessing import get_context

import cv2
import numpy as np
from PIL import Image, ImageDraw, ImageFont

from juxtaform.core.check.company import company_findings, leaks
from juxtaform.core.check.cuts import cut_findings
from juxtaform.core.check.measure import measure_picture
from juxtaform.core.check.places import place_threads
from juxtaform.core.check.sequence import check
from juxtaform.core.check.states import Company, Mark, PlaceHome, PlaceReference, ShotPlan, ShotState, StyleHome
from juxtaform.core.check.technical import Wanted, technical_findings
from juxtaform.core.colour.spaces import Pixels
from juxtaform.core.figure.known import FigureKnown, known_figure
from juxtaform.core.figure.standing import other_places, sought
from juxtaform.core.figure.traits import figure_model, reference_view
from juxtaform.core.findings import Finding
from juxtaform.core.picture.regions import Box
from juxtaform.core.text.names import Named
from juxtaform.demo.paper import Placed, bordered, lit
from juxtaform.media.network import figure_eye, hand_eye, judges, letter_eye
from tests import constructed_places as places
from tests.constructed import (
    EYES,
    LIGHTS,
    Look,
    figure,
    laid_on,
    marked_parts,
    paints_unlike,
    random_look,
    random_pose,
    reference,
    repainted,
    scene,
)

CASES = 6


@dataclass(frozen=True)
class Job:
    """One case: which of the makers, at which magnitude (0 is clean), from which seed."""

    maker: str
    magnitude: int
    seed: int


def half() -> None:
    """The half that was looked at."""
    _run(0)


def last() -> None:
    """The other half, to be read at the end."""
    _run(1)


def _run(odd: int) -> None:
    others: Counter[str] = Counter()
    with ProcessPoolExecutor(2, mp_context=get_context("spawn")) as executor:
        for maker in MAKERS:
            jobs = [Job(maker, m, 2 * i + odd) for m in (0, 1, 2, 3) for i in range(CASES if m else 2 * CASES)]
            found: dict[int, list[bool]] = defaultdict(list)
            for job, (hit, told) in zip(jobs, executor.map(_case, jobs), strict=True):
                found[job.magnitude].append(hit)
                if job.magnitude == 0:
                    others.update(told)
            rates = ", ".join(f"{sum(found[m])} of {len(found[m])}" for m in (1, 2, 3))
            print(
                f"{maker}: {rates} from small to large; of clean ones told {sum(found[0])} of {len(found[0])}",
                flush=True,
            )
    print(f"told of clean cases in all: {dict(others) or 'nothing'}")


def _case(job: Job) -> tuple[bool, list[str]]:
    cv2.setNumThreads(1)
    rng = np.random.default_rng(1_000_000 * (1 + list(MAKERS).index(job.maker)) + 100 * job.seed + job.magnitude)
    kinds, make = MAKERS[job.maker]
    findings = make(rng, job.magnitude)
    return any(f.kind in kinds for f in findings), [f.kind for f in findings]


# Pictures as files


def _state(i: int, pixels: Pixels, **more: object) -> ShotState:
    measure = measure_picture(pixels, [], None, None, None, None, letter_eye())
    return ShotState(f"s{i}", str(i + 1), "", frozenset(), None, (), measure, **more)  # type: ignore[arg-type]


def _row(rng: np.random.Generator) -> list[Pixels]:
    """Pictures of one sequence, each with its own ground and light."""
    return [
        scene([random_look(rng)], rng, LIGHTS[int(rng.integers(5))], ground=int(g))[0] for g in rng.permutation(10)[:6]
    ]


def _file(
    spoil: Callable[[Pixels, int, np.random.Generator], Pixels],
    plan: ShotPlan | None = None,
    wanted: Wanted | None = None,
):  # type: ignore[no-untyped-def]
    def make(rng: np.random.Generator, magnitude: int) -> list[Finding]:
        row = _row(rng)
        at = int(rng.integers(len(row)))
        if magnitude:
            row[at] = spoil(row[at], magnitude, rng)
        shots = [_state(i, p, plan=plan) for i, p in enumerate(row)]
        return technical_findings(shots, wanted or Wanted())

    return make


def _border(p: Pixels, m: int, _: np.random.Generator) -> Pixels:
    return bordered(p, (0.02, 0.05, 0.09)[m - 1], "#f3efe6")


def _letterbox(p: Pixels, m: int, _: np.random.Generator) -> Pixels:
    out = p.copy()
    deep = round(len(p) * (0.03, 0.08, 0.14)[m - 1])
    out[:deep], out[-deep:] = 0, 0
    return out


def _form(p: Pixels, m: int, _: np.random.Generator) -> Pixels:
    return np.ascontiguousarray(p[:, : round(p.shape[1] / (1.06, 1.2, 1.45)[m - 1])])


def _soft(p: Pixels, m: int, _: np.random.Generator) -> Pixels:
    return np.asarray(cv2.GaussianBlur(p, (0, 0), (1.2, 2.0, 3.5)[m - 1]), np.uint8)


def _squeezed(p: Pixels, m: int, _: np.random.Generator) -> Pixels:
    out = io.BytesIO()
    Image.fromarray(p).save(out, "JPEG", quality=(50, 25, 10)[m - 1])
    return np.asarray(Image.open(out).convert("RGB"))


def _graded(p: Pixels, m: int, rng: np.random.Generator) -> Pixels:
    """A soft glow over a part of the picture; spoiled, it has few tones. Clean pictures have the glow too."""
    h, w = p.shape[:2]
    y, x = np.mgrid[0:h, 0:w].astype(np.float32)
    cy, cx, r = rng.uniform(0, h), rng.uniform(0, w), rng.uniform(0.5, 0.9) * w
    glow = np.clip(1 - np.hypot(y - cy, x - cx) / r, 0, 1)[..., None]
    tone = rng.uniform(90, 250, 3).astype(np.float32)
    under = p.astype(np.float32) * 0.25 + 60
    levels = (256, 40, 24, 12)[m]
    sky = np.rint((under.mean(axis=(0, 1)) * (1 - glow) + tone * glow) / 256 * levels) * (256 / levels)
    out = p.copy()
    out[: h // 2] = np.clip(sky, 0, 255).astype(np.uint8)[: h // 2]
    return out


def _banded(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    row = [_graded(p, 0, rng) for p in _row(rng)]
    at = int(rng.integers(len(row)))
    if magnitude:
        row[at] = _graded(row[at], magnitude, rng)
    return technical_findings([_state(i, p) for i, p in enumerate(row)], Wanted())


def _lettered(p: Pixels, m: int, rng: np.random.Generator) -> Pixels:
    size = round(p.shape[0] * (0.045, 0.07, 0.11)[m - 1])
    word = "".join(rng.choice(list("ABDEGKLMNORSTUaeglmnorst"), int(rng.integers(5, 9))))
    picture = Image.fromarray(p)
    font = ImageFont.load_default(size)
    draw = ImageDraw.Draw(picture)
    wide = draw.textlength(word, font)
    x, y = rng.uniform(8, max(9, p.shape[1] - wide - 8)), rng.uniform(8, p.shape[0] - 1.4 * size)
    ground = p[round(y) : round(y + size), round(x) : round(x + wide)].reshape(-1, 3).mean(axis=0)
    dark = tuple(int(v) for v in np.where(ground.mean() > 110, ground * 0.25, 255 - (255 - ground) * 0.2))
    draw.text((x, y), word, fill=dark, font=font)
    return np.asarray(picture)


def _printed(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    mm = (70.0, 90.0, 150.0, 300.0)[magnitude]
    return technical_findings([_state(i, p) for i, p in enumerate(_row(rng)[:2])], Wanted(mm))


# Places


def _ground_state(i: int, pixels: Pixels, marks: Sequence[Box], place: str = "here", **plan: object) -> ShotState:
    measure = measure_picture(pixels, [], None, None, None, hand_eye())
    own = tuple(Mark(f"f{k}", b) for k, b in enumerate(marks))
    return ShotState(
        f"s{i}", str(i + 1), "", frozenset(), None, own, measure, ShotPlan("scene", places=((place, ""),), **plan)
    )  # type: ignore[arg-type]


def _home(name: str, *pages: tuple[Pixels, str]) -> PlaceHome:
    references = []
    for page, variant in pages:
        seen = measure_picture(page, [], None, None, None, hand_eye()).place
        assert seen is not None
        references.append(PlaceReference(seen, variant))
    return PlaceHome(name, name, tuple(references))


def _other_place(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    here, there = (int(v) for v in rng.choice(24, 2, replace=False))
    homes = [_home("here", (places.seen(here)[0], "")), _home("there", (places.seen(there)[0], ""))]
    shots = []
    for i in range(4):
        seed = there if magnitude and i == 2 else here
        nearest = (0.55, 0.5, 0.7, 0.9)[magnitude] if i == 2 else 0.7
        view = replace(places.camera(rng, nearest), w=places.WIDTH * nearest) if i == 2 else places.camera(rng, nearest)
        view = replace(view, x=min(view.x, places.WIDTH - view.w), y=min(view.y, places.HEIGHT - view.w * 2 / 3))
        looks = tuple(random_look(rng) for _ in range(int(rng.integers(0, 2))))
        pixels, boxes = places.seen(seed, view, places.LIGHTS[int(rng.integers(5))], looks=looks, rng=rng)
        shots.append(_ground_state(i, pixels, boxes))
    return place_threads(homes, shots)[1]


MASS = (0.17, 0.25, 0.33)
"""A mass that stands there in one picture: of a sixth, a quarter, a third of the width."""


def _changed_place(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    here = int(rng.integers(24))
    home = _home("here", (places.empty(here), ""))
    page = places.with_mass(here, MASS[magnitude - 1], rng) if magnitude else places.empty(here)
    view, light = places.camera(rng, 0.85), places.LIGHTS[int(rng.integers(5))]
    return place_threads([home], [_ground_state(0, places.seen(here, view, light, page=page)[0], [])])[1]


def _around(rng: np.random.Generator, magnitude: int, *, gone: bool, known: bool) -> list[Finding]:
    """A mass stands there in one of five pictures of a place, or is gone in one; the place has a reference, or none. Somebody stands before most of them."""
    here = int(rng.integers(24))
    whole = places.with_mass(here, MASS[max(0, magnitude - 1)], rng)
    usual = whole if gone else places.empty(here)
    odd = usual if not magnitude else places.empty(here) if gone else whole
    shots = []
    for i in range(5):
        looks = tuple(random_look(rng) for _ in range(int(rng.integers(0, 2))))
        view, light = places.camera(rng, 0.8), places.LIGHTS[int(rng.integers(5))]
        pixels, boxes = places.seen(here, view, light, looks=looks, rng=rng, page=odd if i == 2 else usual)
        shots.append(_ground_state(i, pixels, boxes))
    home = _home("here", (usual, "")) if known else PlaceHome("here", "here")
    return place_threads([home], shots)[1]


def _mass(*, gone: bool, known: bool) -> Callable[[np.random.Generator, int], list[Finding]]:
    return lambda rng, magnitude: _around(rng, magnitude, gone=gone, known=known)


def _other_between(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    """One of six pictures of a place without references shows another one, that four other pictures show; seen from far, from nearer, from near."""
    here, there = (int(v) for v in rng.choice(24, 2, replace=False))
    shots = []
    for i in range(10):
        planned = "here" if i < 6 else "there"
        shown = there if planned == "there" or (magnitude and i == 3) else here
        nearest = (0.7, 0.9, 0.7, 0.5)[magnitude] if i == 3 else 0.7
        looks = tuple(random_look(rng) for _ in range(int(rng.integers(0, 2))))
        view, light = places.camera(rng, nearest), places.LIGHTS[int(rng.integers(5))]
        pixels, boxes = places.seen(shown, view, light, looks=looks, rng=rng)
        shots.append(_ground_state(i, pixels, boxes, planned))
    return place_threads([PlaceHome("here", "here"), PlaceHome("there", "there")], shots)[1]


def _other_variant(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    here = int(rng.integers(24))
    lights = ((1.06, 0.95, 0.85), ((0.8, 0.72, 0.72), (0.6, 0.6, 0.75), (0.4, 0.5, 0.74))[max(0, magnitude - 1)])
    home = _home(
        "here", *((lit(places.empty(here), light), name) for light, name in zip(lights, ("day", "night"), strict=True))
    )
    shots = []
    for i in range(3):
        looks = tuple(random_look(rng) for _ in range(int(rng.integers(0, 2))))
        shown = 1 if magnitude and i == 1 else 0
        pixels, boxes = places.seen(here, places.camera(rng, 0.6), lights[shown], looks=looks, rng=rng)
        state = _ground_state(i, pixels, boxes)
        shots.append(replace(state, plan=ShotPlan("scene", places=(("here", "day"),))))
    return place_threads([home], shots)[1]


# Cuts


def _pair(
    rng: np.random.Generator,
    boxes: Sequence[Sequence[Box]],
    light: float = 0.0,
    tint: float = 0.0,
    views: Sequence[places.Camera] = (),
    lengths: tuple[float, float] = (4.0, 4.0),
    alike: float | None = None,
    changed: Callable[[Pixels], Pixels] = lambda pixels: pixels,
) -> list[Finding]:
    """Two pictures of one place, figures standing in given boxes."""
    here = int(rng.integers(24))
    look = [random_look(rng) for _ in boxes[0]]
    poses = [random_pose(rng) for _ in look]
    views = views or (places.camera(rng, 0.7), places.camera(rng, 0.7))
    base = places.LIGHTS[int(rng.integers(5))]
    step = np.exp2(np.array([tint / 2, 0.0, -tint / 2]) + light)
    shots = []
    for i, own in enumerate(boxes):
        page, _ = places.seen(here, views[i])
        if alike is None:
            poses = [random_pose(rng) for _ in look]
        placed = tuple(
            Placed(figure(one, pose), (b.x + 14 * b.h / 406) / 0.75, (b.y + 2) / 0.75, b.h / 406 / 0.75)
            for one, pose, b in zip(look, poses, own, strict=True)
        )
        gain = tuple(float(v) for v in np.array(base) * (step if i == 1 else 1.0))
        drawn = laid_on(page, placed, "paper") if placed else page
        pixels = lit(changed(drawn) if i == 1 else drawn, gain)  # type: ignore[arg-type]
        shots.append(_ground_state(i, pixels, [b.inside(900, 600) for b in own], length_s=lengths[i]))
    return cut_findings([_without_looks(s) for s in shots], {"f0": "A", "f1": "B"})


def _without_looks(shot: ShotState) -> ShotState:
    """The marks' appearances are not measured here: where they stand is all that is asked."""
    assert shot.picture
    known = [_nobody() for _ in shot.marks]
    seen = measure_picture(np.full((60, 90, 3), 128, np.uint8), [(Box(10, 5, 30, 50), k) for k in known]).appearances
    return replace(shot, picture=replace(shot.picture, appearances=seen))


_NOBODY: list[FigureKnown] = []


def _nobody() -> FigureKnown:
    if not _NOBODY:
        look = random_look(np.random.default_rng(0))
        _NOBODY.append(known_figure(figure_model("nobody", [reference_view(reference(look), "front")])))
    return _NOBODY[0]


def _standing(rng: np.random.Generator, x: float, height: float) -> Box:
    """A figure's box with its middle at a part of the width, so high a part of the picture."""
    h = height * 600
    w = h * 0.5
    return Box(x * 900 - w / 2, 590 - h - rng.uniform(0, 10), w, h)


def _size_cut(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    times = (rng.uniform(1.0, 2.4), 3.9, 5.0, 6.5)[magnitude]
    tall = rng.uniform(0.8, 0.95)
    x = rng.uniform(0.4, 0.6)
    return _pair(rng, [[_standing(rng, x, tall)], [_standing(rng, x, tall / times)]])


def _line_cut(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    apart = (0.3, 0.09, 0.2, 0.4)[magnitude]
    mid = rng.uniform(0.4, 0.6)
    a, b = mid - apart / 2, mid + apart / 2
    tall = rng.uniform(0.5, 0.7)
    after = (a + rng.uniform(-0.05, 0.05), b + rng.uniform(-0.05, 0.05)) if not magnitude else (b, a)
    return _pair(
        rng, [[_standing(rng, a, tall), _standing(rng, b, tall)], [_standing(rng, v, tall * 0.9) for v in after]]
    )


def _side_cut(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    far = (rng.uniform(0, 0.35), 0.5, 0.6, 0.7)[magnitude]
    a = rng.uniform(0.12, 0.2)
    return _pair(rng, [[_standing(rng, a, 0.6)], [_standing(rng, a + far, 0.65)]])


def _light_cut(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    stops = (rng.uniform(-0.35, 0.35), 1.0, 1.5, 2.0)[magnitude]
    sign = 1 if not magnitude else -1
    return _pair(rng, [[_standing(rng, 0.4, 0.6)], [_standing(rng, 0.5, 0.7)]], light=sign * stops)


def _tint_cut(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    stops = (rng.uniform(-0.25, 0.25), 0.8, 1.2, 1.8)[magnitude]
    return _pair(rng, [[_standing(rng, 0.4, 0.6)], [_standing(rng, 0.5, 0.7)]], light=-0.2, tint=-stops)


def _palette_cut(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    """Greyer, more colourful, or every hue turned in OKLab."""
    by = (rng.uniform(0.85, 1.15), 0.6, 0.45, 0.2)[magnitude]
    turn = (rng.uniform(-0.12, 0.12), 0.7, 1.0, 1.4)[magnitude]
    times = (by, 1 / by, np.exp(1j * turn))[int(rng.integers(3))]
    boxes = [[_standing(rng, 0.4, 0.6)], [_standing(rng, 0.5, 0.7)]]
    return _pair(rng, boxes, changed=lambda pixels: repainted(pixels, times))


def _stutter_cut(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    view = places.camera(rng, 0.75)
    moved = (rng.uniform(60, 200), 18.0, 8.0, 0.0)[magnitude]
    x, tall = rng.uniform(0.3, 0.7), rng.uniform(0.5, 0.9)
    second = places.moved(view, moved) if view.x + view.w + moved < places.WIDTH else places.moved(view, -moved)
    shift = 0.0 if magnitude else rng.uniform(0.1, 0.2) * (-1 if x > 0.5 else 1)
    size = 1.0 if magnitude else 0.8
    return _pair(
        rng, [[_standing(rng, x, tall)], [_standing(rng, x + shift, tall * size)]], views=(view, second), alike=1.0
    )


def _rhythm_cut(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    short = (rng.uniform(1.6, 2.4), 2.0, 1.5, 1.0)[magnitude]
    times = (rng.uniform(1, 4), 6, 9, 14)[magnitude]
    box = [[_standing(rng, 0.4, 0.6)], [_standing(rng, 0.5, 0.7)]]
    return _pair(rng, box, lengths=(short * times, short) if rng.random() < 0.5 else (short, short * times))


# Company


def _cast(
    looks: Sequence[Look],
    rng: np.random.Generator,
    names: Sequence[str],
    owners: Sequence[str],
    *,
    declared: bool = False,
) -> list[FigureKnown]:
    eye = figure_eye()
    known = []
    for look, name, owner in zip(looks, names, owners, strict=True):
        views = [
            reference_view(reference(look), "front", eye=eye, id=f"{name}1"),
            reference_view(reference(look, random_pose(rng)), "other", eye=eye, id=f"{name}2"),
        ]
        specs = marked_parts(look) if declared else None
        known.append(known_figure(figure_model(name, views, specs, owner=owner), eye))
    return known


def _company(rng: np.random.Generator, magnitude: int, *, twice: bool) -> list[Finding]:
    eye = figure_eye()
    assert eye
    a, b = random_look(rng), random_look(rng)
    there = [a, a if twice else b] if magnitude else [a]
    scale = (rng.uniform(0.6, 1.0), 0.55, 0.75, 1.0)[magnitude]
    pixels, boxes = scene(there, rng, LIGHTS[int(rng.integers(5))], scale=scale)
    figures = [sought(eye, [reference(one), reference(one, random_pose(rng))]) for one in (a, b)]
    met = other_places(eye, pixels, figures, boxes[:1])
    measure = measure_picture(pixels, [])
    company = tuple(Company(name, found) for name, found in zip("ab", met, strict=True))
    shot = ShotState("s", "1", "", frozenset("a"), None, (Mark("a", boxes[0]),), measure, None, company)
    shot = _without_looks(shot)
    return company_findings([shot], {"a": "A", "b": "B"}, {"a": "character", "b": "character"}, {})


def _costume(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    eye = figure_eye()
    usual = random_look(rng)
    other = random_look(rng)
    changed = ("coat", "legs", "boots")[: max(1, magnitude)]
    second = replace(usual, **{part: getattr(other, part) for part in changed})
    if magnitude == 3:
        second = replace(second, coat_form=(usual.coat_form + 1) % 3, has_extra=False)
    known = _cast([usual, second], rng, ["a", "a/night"], ["a", "a"])
    pixels, [box] = scene(
        [second if magnitude else usual], rng, LIGHTS[int(rng.integers(5))], scale=float(rng.uniform(0.7, 1.0))
    )
    measure = measure_picture(pixels, [(box, known[0])], known, None, eye)
    shot = ShotState("s", "1", "", frozenset("a"), None, (Mark("a", box),), measure)
    return company_findings([shot], {"a": "A"}, {"a": "character"}, {"a/night": "night"})


def _two_in_a_row(
    rng: np.random.Generator, known: list[FigureKnown], rows: Sequence[Sequence[Look]], smallest: float
) -> tuple[list[ShotState], list[Finding]]:
    """Pictures of two figures, each on another ground in another light and size, and what a check of them tells."""
    shots = []
    grounds = rng.permutation(10)
    for i, there in enumerate(rows):
        light = LIGHTS[int(rng.integers(5))]
        scale = float(rng.uniform(smallest, 1.0))
        pixels, boxes = scene(list(there), rng, light, ground=int(grounds[i]), scale=scale)
        measure = measure_picture(pixels, list(zip(boxes, known, strict=True)), known, None, figure_eye())
        marks = tuple(Mark(n, box) for n, box in zip("ab", boxes, strict=True))
        shots.append(ShotState(f"s{i}", str(i + 1), "", frozenset("ab"), None, marks, measure))
    return shots, list(check(shots, [], [Named("a", "A"), Named("b", "B")], judges=judges()).findings)


def _leak(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    """A part takes the colour of somebody beside: boots, legs, coat."""
    a, b = random_look(rng), random_look(rng)
    part = ("boots", "legs", "coat")[max(0, magnitude - 1)]
    known = _cast([a, b], rng, ["a", "b"], ["a", "b"])
    worn = replace(a, **{part: b.coat}) if magnitude else a
    shots, findings = _two_in_a_row(rng, known, [[worn if i == 2 else a, b] for i in range(5)], 0.75)
    return [f for f in leaks(findings, shots, {"a": "A", "b": "B"}) if f.shot == "s2" or f.kind == "leak"]


def _trait_twice(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    """A cap, scarf or bag once more on the same figure: at 0.6, 0.8 and 1 of its size."""
    a, b = random_look(rng), random_look(rng)
    known = _cast([a, b], rng, ["a", "b"], ["a", "b"], declared=True)
    worn = replace(a, extra_again=(0.0, 0.6, 0.8, 1.0)[magnitude])
    _, findings = _two_in_a_row(rng, known, [[worn if i == 2 else a, b] for i in range(5)], 0.6)
    return [f for f in findings if f.shot == "s2" or f.kind == "trait_twice"]


def _extra(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    """A cap, scarf or bag that the references do not have, in a colour that is none of the figure's, in one of five pictures: at 0.7, 1 and 1.3 times its size."""
    a, b = random_look(rng), random_look(rng)
    plain = replace(a, has_extra=False)
    known = _cast([plain, b], rng, ["a", "b"], ["a", "b"])
    colour = str(rng.choice(paints_unlike([a.hair, a.skin, a.coat, a.legs, a.boots, EYES])))
    odd = replace(a, extra=colour, extra_size=(1.0, 0.7, 1.0, 1.3)[magnitude]) if magnitude else plain
    _, findings = _two_in_a_row(rng, known, [[odd if i == 2 else plain, b] for i in range(5)], 0.6)
    return [f for f in findings if f.shot == "s2" or f.kind.startswith("extra")]


def _proportion(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    """A head 1.2, 1.35 and 1.5 times as large, or as small; its mark is where it was before."""
    a, b = random_look(rng), random_look(rng)
    known = _cast([a, b], rng, ["a", "b"], ["a", "b"])
    times = (1.0, 1.2, 1.35, 1.5)[magnitude]
    odd = replace(a, head=times if rng.integers(2) else 1 / times)
    _, findings = _two_in_a_row(rng, known, [[odd if i == 2 else a, b] for i in range(5)], 0.6)
    return [f for f in findings if f.shot == "s2" or f.kind == "proportion"]


def _height(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    """In one picture one of two is 1.25, 1.5 and 1.8 times as large, or as small, beside the other as in the five others."""
    looks = [random_look(rng), random_look(rng)]
    known = _cast(looks, rng, ["a", "b"], ["a", "b"])
    usual, times = float(rng.uniform(0.75, 1.0)), (1.0, 1.25, 1.5, 1.8)[magnitude]
    times = times if rng.integers(2) else 1 / times
    grounds, shots = rng.permutation(10), []
    for i in range(6):
        zoom = float(rng.uniform(0.55, 0.75))
        own = (zoom, zoom * usual * (times if i == 2 else 1.0))
        pixels, boxes = scene(looks, rng, LIGHTS[int(rng.integers(5))], int(grounds[i]), scale=own)
        measure = measure_picture(pixels, list(zip(boxes, known, strict=True)), known, None, figure_eye())
        marks = tuple(Mark(n, box) for n, box in zip("ab", boxes, strict=True))
        shots.append(ShotState(f"s{i}", str(i + 1), "", frozenset("ab"), None, marks, measure))
    findings = check(shots, [], [Named("a", "A"), Named("b", "B")], judges=judges()).findings
    return [f for f in findings if f.shot == "s2" or f.kind.startswith("height")]


def _lines(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    """Outlines of the last four of ten pictures in ink grow to 1.5, 2 and 2.7 times their width."""
    widest = (1.0, 1.5, 2.0, 2.7)[magnitude]
    shots = []
    grounds = rng.permutation(10)
    for i, line in enumerate((*[1.0] * 6, *np.linspace(1.0, widest, 5)[1:])):
        light, scale = LIGHTS[int(rng.integers(5))], float(rng.uniform(0.75, 1.0))
        pixels, _ = scene([random_look(rng)], rng, light, int(grounds[i]), "inked", scale, float(line))
        measure = measure_picture(pixels, [], None, None, None, hand_eye())
        shots.append(ShotState(f"s{i}", str(i + 1), "", frozenset(), "ink", (), measure))
    return [f for f in check(shots, [StyleHome("ink", "Ink")], []).findings if f.thread == "ink"]


def _tint(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    """The last five of ten pictures in one light turn yellow, or blue, by 0.35, 0.6 and 1 stop of red over blue; clean ones stay, or an evening falls."""
    look = random_look(rng)
    known = _cast([look], rng, ["a"], ["a"])
    grounds, way = rng.permutation(10), 1.0 if rng.integers(2) else -1.0
    most, evening = (0.0, 0.35, 0.6, 1.0)[magnitude], 0.0 if magnitude else float(rng.integers(2))
    shots = []
    for i in range(10):
        much = max(0, i - 4) / 5
        light = np.exp2(much * (way * most * np.array([0.5, 0.0, -0.5]) - evening * np.array([0.5, 1.0, 1.5])))
        pixels, boxes = scene([look], rng, tuple(light), int(grounds[i]), scale=float(rng.uniform(0.6, 1.0)))
        measure = measure_picture(pixels, [(boxes[0], known[0])], known, None, figure_eye(), hand_eye())
        shots.append(ShotState(f"s{i}", str(i + 1), "", frozenset("a"), "s", (Mark("a", boxes[0]),), measure))
    return [f for f in check(shots, [StyleHome("s", "Paper")], [Named("a", "A")]).findings if f.thread == "s"]


def _twice(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    return _company(rng, magnitude, twice=True)


def _unplanned(rng: np.random.Generator, magnitude: int) -> list[Finding]:
    return _company(rng, magnitude, twice=False)


MAKERS: dict[str, tuple[frozenset[str], Callable[[np.random.Generator, int], list[Finding]]]] = {
    "printed border": (frozenset({"border"}), _file(_border)),
    "letterbox": (frozenset({"letterbox"}), _file(_letterbox)),
    "form": (frozenset({"aspect"}), _file(_form, ShotPlan(aspect=1.5))),
    "softness": (frozenset({"soft"}), _file(_soft)),
    "compression": (frozenset({"compressed"}), _file(_squeezed)),
    "banding": (frozenset({"banding"}), _banded),
    "lettering": (frozenset({"lettering"}), _file(_lettered)),
    "too small to print": (frozenset({"too_small"}), _printed),
    "another place": (frozenset({"another_place"}), _other_place),
    "another mass in a place": (frozenset({"place_changed", "place_doubtful"}), _changed_place),
    "another variant": (frozenset({"place_variant"}), _other_variant),
    "leap in size": (frozenset({"size_leap"}), _size_cut),
    "line crossed": (frozenset({"line_crossed"}), _line_cut),
    "leap to the other side": (frozenset({"side_leap"}), _side_cut),
    "light jumps": (frozenset({"light_leap"}), _light_cut),
    "tint jumps": (frozenset({"light_leap"}), _tint_cut),
    "stutter": (frozenset({"stutter"}), _stutter_cut),
    "rhythm": (frozenset({"rhythm"}), _rhythm_cut),
    "there twice": (frozenset({"twice", "twice_doubtful"}), _twice),
    "somebody unplanned": (frozenset({"unplanned", "unplanned_doubtful"}), _unplanned),
    "wrong costume": (frozenset({"costume"}), _costume),
    "a colour leaks": (frozenset({"leak"}), _leak),
    "another mass among pictures": (frozenset({"place_changed"}), _mass(gone=False, known=True)),
    "another mass, no references": (frozenset({"place_changed"}), _mass(gone=False, known=False)),
    "a mass gone among pictures": (frozenset({"place_changed"}), _mass(gone=True, known=True)),
    "a mass gone, no references": (frozenset({"place_changed"}), _mass(gone=True, known=False)),
    "another place, no references": (frozenset({"another_place", "place_doubtful"}), _other_between),
    "a trait twice": (frozenset({"trait_twice"}), _trait_twice),
    "palette jumps": (frozenset({"palette_leap"}), _palette_cut),
    "something unasked": (frozenset({"extra", "extra_doubtful"}), _extra),
    "another proportion": (frozenset({"proportion"}), _proportion),
    "wider and wider lines": (frozenset({"style_slide", "style_step"}), _lines),
    "another height": (frozenset({"height", "height_doubtful"}), _height),
    "a tint creeps in": (frozenset({"style_slide", "style_step", "tint_doubtful"}), _tint),
}
"""By what is wrong: the kinds that say so, and how a case is made."""
