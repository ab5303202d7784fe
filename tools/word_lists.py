"""Writes `juxtaform/core/text/english/data/wordnet_lists.txt`: word lists that WordNet knows, as Debian packages it (wordnet-base, wordnet-sense-index).

A list is all words that in enough of their uses mean something below the senses that it names, without those that were taken out when the list was read
through. How often a word is used in a sense is what WordNet's tagged texts say, with a little for each sense that none of them has.

    python -m tools.word_lists /usr/share/wordnet
"""

from __future__ import annotations

import sys
import textwrap
from collections import defaultdict
from dataclasses import dataclass
from pathlib import Path

from tools.english import OUT, synsets


@dataclass(frozen=True)
class Derived:
    """A list or one group of it: the senses that its words stand below (`walk.v#1`), the least share of a word's uses that do, and what was taken out."""

    name: str
    about: str
    below: str
    least: float = 0.4
    without: str = ""
    group: str = ""


LISTS = (
    Derived(
        "travels",
        "Deeds that go a way for a while: no still shows the way.",
        "walk.v#1 hurry.v#1 run.v#1 fly.v#1 ride.v#1 ride.v#2 bicycle.v#1 swim.v#1 crawl.v#1 wander.v#1 travel.v#1+ travel.v#2 rush.v#1 row.v#1 sail.v#1 glide.v#1 float.v#1 roll.v#1 drive.v#1"
        " climb.v#1 climb.v#2 march.v#1 slide.v#1 hop.v#1 jump.v#1 follow.v#1",
        0.4,
        "skin go tiptoe tippytoe pussyfoot strut swagger float drift waft stalk stagger pace stumble flounder trample reel toe mouse debouch fin formicate poise maunder tool submarine keel coggle dodder jump spring leap bounce ricochet rebound carom hurdle"
        " shadow lag tailgate escalade vault gad squish prance butterfly fleet outrun backpack caper pronk scuff scuffle globe-trot backstroke skinny-dip skin-dive snorkel",
    ),
    Derived(
        "sounds",
        "What a thing does that is heard as it goes: `squeaks across the yard`.",
        "sound.v#2 sound.v#3 sound.v#4",
        0.4,
        "ring drum pink trump tweet boom plunk blast consonate crump dissonate knell tick ticktack ticktock tink",
    ),
    Derived(
        "hauls",
        "Deeds that take something along a way.",
        "pull.v#1 push.v#1 carry.v#1 chase.v#1 transport.v#1",
        0.5,
        "attract thrust jerk poke repel stuff ram yank prod jab pluck elbow tweeze adduct introvert intussuscept obtrude toenail tug carry channel advect retransmit"
        " refloat teleport transmit",
    ),
    Derived(
        "depictions",
        "What shows somebody or something that is not there.",
        "representation.n#2 picture.n#2 statue.n#1 sculpture.n#1 portrait.n#1 poster.n#1 sign.n#2 mask.n#1 stamp.n#2 banner.n#1 doll.n#1 puppet.n#1 silhouette.n#1 likeness.n#1"
        " map.n#1 print.n#4 mural.n#1 cartoon.n#1 postcard.n#1",
        0.3,
        "letter note copy invitation backdrop scenery duplication sham fake bullfight corrida novillada naumachia naumachy beefcake cheesecake missive encyclical summons invite"
        " billet epistle aerogram aerogramme adumbration casting coulisse chiaroscuro zodiac scrabble scribble counterfeit forgery postiche roughcast tormenter animalization"
        " backcloth counterpart holograph radiogram duplicate triplicate quadruplicate replica knockoff simulacrum cutaway glossy plat ikon graphic scarer bird-scarer outtake colors colours compare comparability resemblance similitude"
        " still nude herm waft stabile posting scarecrow snowman standee pastel modeling closeup longshot inset collage monochrome duad gouache fingerboard watercolor",
    ),
    Derived(
        "in mind",
        "Deeds of the mind: wishes, memories, fancies, regrets.",
        "desire.v#1 remember.v#1 remember.v#2 remember.v#3 imagine.v#1 regret.v#1 forget.v#1 think.v#2 expect.v#1 suspect.v#1 doubt.v#1",
        0.5,
        "limit characterize characterise restrain confuse confine conquer inhibit mistake suppress dampen hamper curb silence quell stifle throttle muffle squelch gag abnegate bate"
        " begrudge cabin closet constrain countercheck cumber encumber drool individuate misidentify mortify prefigure shush suppurate taboo thermostat trellis unlearn call"
        " ambition desire regard lust yen view reconstruct premiss reformulate",
    ),
    Derived(
        "feels",
        "What somebody feels and does not show.",
        "dislike.v#1 love.v#1 love.v#2 fear.v#2 fear.v#1 admire.v#1 pity.v#1 envy.v#1 prefer.v#1 resent.v#1 cherish.v#1",
        0.5,
        "worship panic commiserate condole contemn cotton freak compassionate fetishize care choose",
    ),
    Derived(
        "asks",
        "Deeds that say what somebody is to do: it is not done yet.",
        "request.v#1 request.v#2 order.v#1 order.v#2 promise.v#1 urge.v#1 urge.v#2 threaten.v#1",
        0.4,
        "question bar contract rent sue endanger jeopardize jeopardise incite agitate remand underwrite instigate lease menace outlaw proscribe bull charter exact imperil overburden page"
        " action affiance autograph betroth brazen buttonhole canvas censor convoke countersign covenant criminalise decoy embargo encore foment illegalise illegalize impeach impugn"
        " initial ink litigate mobilise nix oppugn panhandle peril plight preachify rejuvenate rumpus schnorr sermonise sermonize shnorr stool subvent subvention summons undersign visa"
        " veto disallow counterclaim counterchallenge arrogate",
    ),
    Derived(
        "calls",
        "Deeds of the voice or the hand that reach somebody who is far.",
        "shout.v#1 shout.v#2 signal.v#1",
        0.4,
        "flag pipe heliograph bark roar exclaim",
    ),
    Derived(
        "furniture",
        "Furniture: it stands in a room, and who sits on it is still in the room.",
        "furniture.n#1",
        0.4,
        "lower upper booth lounge rolodex sheraton platen wheelchair sectional",
    ),
    *(
        Derived("hues", "Colour words, by hue.", below, 0.15, without, group)
        for group, below, without in (
            ("red", "red.n#1", "wine magenta redness sanguine fuschia purplish-red"),
            ("orange", "orange.n#2", "orangeness"),
            ("yellow", "yellow.n#1", "maize yellowness canary"),
            ("green", "green.n#1", "cyan teal greenishness viridity"),
            ("blue", "blue.n#1", "aquamarine turquoise blueness aqua sapphire"),
            ("purple", "purple.n#1", "indigo purpleness"),
            ("pink", "pink.n#1", "pinkness apricot carnation rosiness coral"),
            ("black", "black.n#1", "blackness inkiness ebony"),
            ("grey", "gray.n#1", "grayness greyness"),
            ("white", "white.n#2", "whiteness chalk frostiness hoariness bleach pearl"),
        )
    ),
)


NO_DEEDS = "evening downing turing bouncing coming accommodating superconducting heat-seeking light-emitting self-registering".split()
"""First words of names of things that are no deeds done with them; taken out when the list was read through."""


@dataclass(frozen=True)
class _Net:
    above: dict[str, dict[str, list[str]]]
    senses: dict[tuple[str, str], list[tuple[int, str, int]]]

    def ancestors(self, pos: str, offset: str, known: dict[tuple[str, str], frozenset[str]]) -> frozenset[str]:
        if (pos, offset) not in known:
            up = (self.ancestors(pos, o, known) for o in self.above[pos][offset])
            known[pos, offset] = frozenset([offset]).union(*up)
        return known[pos, offset]

    def sense(self, name: str) -> str:
        """The synset of a sense as `walk.v#1`; a plus behind it takes that synset alone, without those below."""
        word, _, rank = name.rstrip("+").partition("#")
        lemma, _, pos = word.rpartition(".")
        return next(offset for r, offset, _ in self.senses[lemma, pos] if r == int(rank))

    def words(self, wanted: Derived) -> list[str]:
        names = wanted.below.split()
        pos = names[0].partition("#")[0][-1]
        below = {self.sense(n) for n in names if not n.endswith("+")}
        alone = {self.sense(n) for n in names if n.endswith("+")}
        known: dict[tuple[str, str], frozenset[str]] = {}
        found = []
        for (lemma, p), senses in self.senses.items():
            if p != pos or "_" in lemma or lemma in wanted.without.split() or not lemma.replace("-", "").isalpha():
                continue
            weights = [(c + 1 / r, o) for r, o, c in senses]
            share = sum(w for w, o in weights if o in alone or self.ancestors(p, o, known) & below)
            if share >= wanted.least * sum(w for w, _ in weights):
                found.append(lemma)
        return sorted(found)

    def named_by_deeds(self, below: str) -> dict[str, list[str]]:
        """Things and places whose name is a deed and a noun (`living room`), by the deed."""
        made, known = self.sense(below), {}
        found = defaultdict(list)
        for (lemma, p), senses in self.senses.items():
            deed, _, noun = lemma.partition("_")
            stem = deed.removesuffix("ing")
            verbs = ((stem, "v"), (f"{stem}e", "v"), (stem[:-1], "v"))
            named = p == "n" and stem != deed and noun.isalpha() and deed not in NO_DEEDS
            if (
                named
                and any(v in self.senses for v in verbs)
                and any(made in self.ancestors(p, o, known) for _, o, _ in senses)
            ):
                found[deed].append(noun)
        return {deed: sorted(nouns) for deed, nouns in sorted(found.items())}


def read(folder: Path) -> _Net:
    """WordNet's nouns and verbs, with the senses of each word."""
    above = {pos: {o: up for o, (_, _, up, _) in synsets(folder, pos).items()} for pos in "nv"}
    senses: dict[tuple[str, str], list[tuple[int, str, int]]] = defaultdict(list)
    for line in (folder / "index.sense").read_text("latin-1").splitlines():
        key, offset, rank, count = line.split()
        lemma, rest = key.split("%")
        if rest[0] in "12" and offset in above["nv"[int(rest[0]) - 1]]:
            senses[lemma, "nv"[int(rest[0]) - 1]].append((int(rank), offset, int(count)))
    return _Net(above, senses)


def main() -> None:
    net = read(Path(sys.argv[1]))
    lines = [
        "# Source: WordNet 3.0 (LICENCE beside this file), written by tools/word_lists.py, which says below which senses each list stands",
        "# and which words were taken out when it was read through. Change it there.",
    ]
    head = ""
    for wanted in LISTS:
        if wanted.name != head:
            head = wanted.name
            lines += ["", f"# {wanted.about}", f"[{head}]"]
        words = " ".join(net.words(wanted))
        named = f"{wanted.group}: {words}" if wanted.group else words
        lines += textwrap.wrap(named, 150, break_on_hyphens=False, break_long_words=False)
    lines += ["", "# Things and places that are named by what is done with or in them.", "[named by deeds]"]
    for deed, nouns in net.named_by_deeds("artifact.n#1").items():
        lines += textwrap.wrap(f"{deed}: {' '.join(nouns)}", 150, break_on_hyphens=False, break_long_words=False)
    (OUT / "wordnet_lists.txt").write_text("\n".join(lines) + "\n")
    print(f"{len({w.name for w in LISTS}) + 1} lists")


if __name__ == "__main__":
    main()
