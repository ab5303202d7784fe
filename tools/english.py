"""Writes the English word list of `juxtaform/core/text/english/data` from WordNet's database, as Debian packages it (wordnet-base).

Each line of `words.tsv` is a lemma and what WordNet says of it: how often it is a noun, verb, adjective or adverb (the counts of the tagged texts, with a
little for each sense that none of them has), what kinds of thing the noun means in tenths, whom a person's noun means by sex,
and what kinds of deed the verb means in tenths. `forms.tsv` has the irregular forms, `capitals.tsv` the words that are written with a capital.

    python -m tools.english /usr/share/wordnet
"""

from __future__ import annotations

import sys
from collections import Counter, defaultdict
from pathlib import Path

OUT = Path(__file__).parent.parent / "juxtaform/core/text/english/data"
POS = {"n": "noun", "v": "verb", "a": "adj", "r": "adv"}
KINDS = {
    "person": ["person.n", "spiritual_being.n", "imaginary_being.n"],
    "animal": ["animal.n"],
    "vehicle": ["vehicle.n", "vessel.n:craft", "conveyance.n:artifact"],
    "container": ["container.n", "storage_space.n", "furnace.n", "cage.n"],
    "people": ["people.n", "social_group.n", "biological_group.n"],
    "room": ["room.n", "area.n:structure", "floor.n:structure"],
    "building": [
        "building.n",
        "building_complex.n",
        "housing.n",
        "mercantile_establishment.n",
        "house.n",
        "place_of_business.n",
        "facility.n",
        "shelter.n",
    ],
    "conduit": ["conduit.n"],
    "way": ["way.n:artifact", "passageway.n", "stairway.n", "bridge.n", "platform.n", "landing.n"],
    "land": [
        "region.n",
        "geological_formation.n",
        "body_of_water.n",
        "land.n",
        "dry_land.n",
        "tract.n",
        "vegetation.n",
        "point.n:location",
        "location.n",
        "excavation.n:artifact",
    ],
    "barrier": ["barrier.n", "supporting_structure.n", "opening.n", "furniture.n", "furnishing.n"],
    "structure": ["structure.n"],
    "body": ["body_part.n", "body_covering.n"],
    "clothes": ["clothing.n", "footwear.n", "footwear.n#2", "headdress.n", "jewelry.n"],
    "food": ["food.n", "foodstuff.n", "beverage.n"],
    "plant": ["plant.n:organism", "plant_part.n"],
    "weather": ["atmospheric_phenomenon.n"],
    "time": ["time_period.n", "time_unit.n", "clock_time.n"],
    "thing": ["artifact.n", "natural_object.n", "physical_entity.n"],
}
LETTERS = {
    "person": "P",
    "animal": "A",
    "people": "G",
    "room": "R",
    "building": "H",
    "conduit": "O",
    "way": "W",
    "land": "L",
    "vehicle": "V",
    "container": "K",
    "barrier": "D",
    "structure": "H",
    "body": "B",
    "clothes": "C",
    "food": "F",
    "plant": "N",
    "weather": "X",
    "time": "T",
    "thing": "O",
    "other": "X",
}
PERSONS, ANIMALS = 18, 5
"""The lexicographers' files of persons, and of animals with all that they are made of."""
DEEDS = {
    29: "body",
    30: "change",
    31: "think",
    32: "say",
    33: "compete",
    34: "eat",
    35: "touch",
    36: "make",
    37: "feel",
    38: "move",
    39: "see",
    40: "own",
    41: "deal",
    42: "be",
    43: "weather",
}
DEED_CODES = dict(zip(DEEDS.values(), "BCTSXEHKFMVODIW", strict=True))


def synsets(folder: Path, pos: str) -> dict[str, tuple[int, list[str], list[str], bool]]:
    """By offset: lexicographer file, words, hypernyms, and whether it is an instance (a named one)."""
    out = {}
    for line in (folder / f"data.{POS[pos]}").read_text("latin-1").splitlines():
        if line.startswith("  "):
            continue
        fields = line.split(" | ")[0].split()
        count = int(fields[3], 16)
        words = [w.split("(")[0] for w in fields[4 : 4 + 2 * count : 2]]
        at = 4 + 2 * count
        pointers = int(fields[at])
        above, instance = [], False
        for i in range(pointers):
            symbol, target, kind = fields[at + 1 + 4 * i : at + 4 + 4 * i]
            if symbol in ("@", "@i") and kind == pos:
                above.append(target)
                instance = instance or symbol == "@i"
        out[fields[0]] = (int(fields[1]), words, above, instance)
    return out


def main() -> None:
    folder = Path(sys.argv[1])
    nouns, verbs = synsets(folder, "n"), synsets(folder, "v")
    ancestors: dict[str, frozenset[str]] = {}

    def above(offset: str) -> frozenset[str]:
        if offset not in ancestors:
            ancestors[offset] = frozenset([offset]).union(*(above(o) for o in nouns[offset][2]))
        return ancestors[offset]

    senses: dict[tuple[str, str], list[tuple[int, str, int]]] = defaultdict(list)
    for line in (folder / "index.sense").read_text("latin-1").splitlines():
        key, offset, rank, count = line.split()
        lemma, rest = key.split("%")
        pos = {"1": "n", "2": "v", "3": "a", "5": "a", "4": "r"}[rest[0]]
        if "_" not in lemma and lemma.replace("-", "").replace("'", "").isalpha() and lemma.isascii():
            senses[lemma, pos].append((int(rank), offset, int(count)))
    first: dict[str, str] = {}
    for (lemma, pos), found in senses.items():
        if pos == "n":
            first[lemma] = min(found)[1]
    named = _roots(folder, nouns, first, above)
    female, male = _first(folder, "female", "person"), _first(folder, "male", "person")
    lower = {w for _, words, _, _ in nouns.values() for w in words if w.islower()}
    lower |= {w for _, words, _, _ in verbs.values() for w in words if w.islower()}
    for pos in ("a", "r"):
        lower |= {w for _, words, _, _ in synsets(folder, pos).values() for w in words if w.islower()}
    lines = []
    for lemma in sorted({lemma for lemma, _ in senses}):
        if lemma not in lower or len(lemma) < 2:
            continue
        weights = {p: sum(c + 0.5 / r for r, _, c in senses.get((lemma, p), [])) for p in "nvar"}
        pos_words = "".join(f"{p}{min(999, max(1, round(2 * w)))}" for p, w in weights.items() if w)
        kinds: Counter[str] = Counter()
        sexes: Counter[str] = Counter()
        for rank, offset, count in sorted(senses.get((lemma, "n"), [])):
            if nouns[offset][3] or (lemma not in nouns[offset][1] and rank > 1):
                continue
            kind = next((k for k, roots in named.items() if above(offset) & roots), "other")
            if nouns[offset][0] == PERSONS:
                kind = "person"
            elif nouns[offset][0] == ANIMALS and kind not in ("animal", "body", "people"):
                kind = "body"  # feathers, claws and tails stand among the animals
            kinds[LETTERS[kind]] += count + 1 / rank
            if kind == "person":
                sex_told = "f" if female in above(offset) else "m" if male in above(offset) else ""
                sexes[sex_told] += count + 1 / rank
        total = sum(kinds.values())
        sex = next((s for s in ("f", "m") if sexes[s] > 0.3 * total), "")
        kind_words = "".join(
            f"{k}{round(9 * v / total)}" for k, v in kinds.most_common() if total and v / total >= 0.06
        )
        deeds: Counter[str] = Counter()
        for rank, offset, count in senses.get((lemma, "v"), []):
            deeds[DEEDS[verbs[offset][0]]] += count + 1 / rank
        all_deeds = sum(deeds.values())
        deed_words = "".join(
            f"{DEED_CODES[k]}{round(9 * v / all_deeds)}" for k, v in deeds.most_common() if v / all_deeds >= 0.06
        )
        lines.append("\t".join([lemma, pos_words, kind_words, sex, deed_words]).rstrip("\t"))
    OUT.mkdir(parents=True, exist_ok=True)
    (OUT / "words.tsv").write_text("\n".join(lines) + "\n")
    forms = []
    for pos in ("n", "v", "a"):
        for line in (folder / f"{POS[pos]}.exc").read_text("latin-1").splitlines():
            form, lemma = line.split()[:2]
            if "_" not in form and form != lemma:
                forms.append(f"{form}\t{pos}\t{lemma}")
    (OUT / "forms.tsv").write_text("\n".join(forms) + "\n")
    capitals: dict[str, str] = {}
    for _, words, _, _ in synsets(folder, "a").values():
        for word in words:
            if word[:1].isupper() and word.isalpha() and word.isascii():
                capitals.setdefault(word, "J")
    for offset, (_, words, _, instance) in nouns.items():
        for word in words:
            if word[:1].isupper() and word.isalpha() and word.isascii() and len(word) > 2:
                kind = next((k for k, roots in named.items() if above(offset) & roots), "other")
                if not (instance and kind == "person"):
                    capitals.setdefault(word, LETTERS[kind])
    (OUT / "capitals.tsv").write_text("".join(f"{w}\t{k}\n" for w, k in sorted(capitals.items())))
    licence = [line[4:].strip() for line in (folder / "data.noun").read_text("latin-1").splitlines()[:29]]
    (OUT / "LICENCE").write_text(
        "The first names (first_names.tsv) are those of the 1990 census of the United States, which are in the public domain.\n"
        "The other word lists beside this file are made from WordNet 3.0 by tools/english.py and tools/word_lists.py.\n\n"
        + "\n".join(licence)
        + "\n"
    )
    print(f"{len(lines)} words, {len(forms)} forms, {len(capitals)} with a capital")


def _first(folder: Path, lemma: str, lex: str) -> str:
    """The first sense of a noun in a lexicographer file."""
    wanted = {"person": "18"}[lex]
    best = (99, "")
    for line in (folder / "index.sense").read_text("latin-1").splitlines():
        if line.startswith(f"{lemma}%1:{wanted}:"):
            _, offset, rank, _ = line.split()
            best = min(best, (int(rank), offset))
    return best[1]


def _roots(folder: Path, nouns, first, above) -> dict[str, frozenset[str]]:  # type: ignore[no-untyped-def]
    """For each kind the synsets under which its nouns stand: the first sense of a word, or the first under another word's first sense."""
    senses: dict[str, list[tuple[int, str]]] = defaultdict(list)
    for line in (folder / "index.sense").read_text("latin-1").splitlines():
        key, offset, rank, _ = line.split()
        lemma, rest = key.split("%")
        if rest[0] == "1":
            senses[lemma].append((int(rank), offset))
    out = {}
    for kind, roots in KINDS.items():
        found = []
        for root in roots:
            word, _, under = root.partition(":")
            word, _, rank = word.partition("#")
            word = word.removesuffix(".n")
            for number, offset in sorted(senses[word]):
                if rank and number != int(rank):
                    continue
                if not under or any(o in above(offset) for _, o in sorted(senses[under])[:1]):
                    found.append(offset)
                    break
        out[kind] = frozenset(found)
    return out


if __name__ == "__main__":
    main()
