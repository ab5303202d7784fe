"""A hundred briefs with hand-made truth, under the sea and in a house with an attic, in long sentences with several clauses, written when the twenty-six worlds before had
taught (docs/briefs.md has the first rates)."""

from __future__ import annotations

from juxtaform.core.brief.compose import Member, StyleWords
from tests.briefs.world import A, D, F, M, N, T, U, World, person, place, rows, view

REEF = World(
    {
        "mara": person(
            "mara", "Mara", "Mara, a diver of thirteen: a yellow diving suit, two short plaits, a gap in her teeth."
        ),
        "otter": person("otter", "Bosun", "Bosun, a sea otter with a scar on his nose, who wears a captain's cap."),
        "eel": person(
            "eel", "Lady Murk", "Lady Murk, a moray eel: green and spotted, as long as a boat, pearls round her neck."
        ),
        "crabs": person("crabs", "The crab brothers", "The crab brothers, three red crabs with tin helmets."),
        "prof": person("prof", "Professor Anemo", "Professor Anemo, a jellyfish with a monocle, pale pink."),
        "bell": Member(
            "bell", "prop", "Diving bell", "A copper diving bell with one round window.", views=(view("bell"),)
        ),
        "chart": Member("chart", "prop", "Chart", "A torn sea chart.", owner="otter", views=(view("chart"),)),
        "reef": place("reef", "Reef", "A coral reef in clear water, at noon."),
        "wreck": place("wreck", "Wreck", "The wreck of a sailing ship, in green gloom."),
        "deck": place("deck", "Deck", "The deck of a small cutter, in fog."),
        "trench": place("trench", "Trench", "A deep black trench with glowing fish."),
    },
    {
        "mono": StyleWords(
            "mono", "Monotype", "Monotype printing, grainy, two inks.", ("monotype", "grainy"), donts=("bubbles",)
        )
    },
    {
        "otter": ("the otter",),
        "eel": ("the eel", "the moray"),
        "crabs": ("the crabs", "the brothers"),
        "prof": ("the professor", "Anemo"),
        "bell": ("the bell",),
        "chart": ("the chart",),
        "reef": ("the reef",),
        "wreck": ("the wreck",),
        "deck": ("the deck",),
        "trench": ("the trench",),
    },
    {"mara": {"oilskins": "Black oilskins and a sou'wester."}},
    {"mara": (("", "suit", "yellow"),), "crabs": (("", "crabs", "red"),)},
)

REEF_BRIEFS = rows(
    REEF,
    "mono",
    ("Mara hangs head down over the reef and counts starfish.", "mara reef", ""),
    ("Mara, who has never been this deep before, grips the rope with both hands.", "mara trench", ""),
    ("The otter floats on his back with the chart spread out on his belly.", "otter chart reef", ""),
    ("The otter floats on his back with the chart spread out on his belly.", "otter reef", N),
    (
        "The otter floats on his back, while Mara, below him, points at something that we cannot see.",
        "otter mara reef",
        "",
    ),
    ("The otter floats on his back, while Mara, below him, points at something that we cannot see.", "otter reef", N),
    ("As she turns round, a shadow passes over the sand.", "mara reef", ""),
    ("As she turns round, a shadow passes over the sand.", "mara eel reef", ""),
    ("Lady Murk pokes her head out of a porthole and bares her teeth.", "eel wreck", ""),
    ("Lady Murk glides out of the porthole and around the mast.", "eel wreck", M),
    ("A string of pearls, a green head, a very wide smile.", "eel wreck", ""),
    ("There are rumours of a beast that swallows anchors.", "wreck", U),
    ("The brothers form a tower, the smallest on top.", "crabs reef", ""),
    ("The brothers form a tower, the smallest on top.", "crabs eel reef", A),
    ("Three tin helmets peep over the edge of the coral.", "crabs reef", ""),
    ("The crabs, blue with cold, huddle under a shell.", "crabs trench", F),
    ("Professor Anemo adjusts his monocle and clears what would be his throat.", "prof reef", ""),
    ("The professor, glowing a little, lights the way for Mara.", "prof mara trench", ""),
    ("The professor, glowing a little, lights the way for Mara.", "prof trench", N),
    ("Somewhere below them the bell must have come to rest.", "mara otter trench", U),
    ("Mara climbs into the bell and pulls the hatch shut behind her.", "mara bell deck", ""),
    ("Inside the bell there is just room for two knees, a lamp and a sandwich.", "mara bell trench", ""),
    ("Through the round window of the bell Mara looks at a fish that looks at her.", "mara bell trench", ""),
    ("Through the round window of the bell Mara looks at a fish that looks at her.", "mara trench", N),
    ("The bell sinks into the dark.", "bell trench", M),
    ("The bell hangs above the dark like a lamp.", "bell trench", ""),
    ("Fish with lanterns on their foreheads come closer to see who is there.", "trench", ""),
    ("Fish with lanterns on their foreheads come closer to see who is there.", "prof trench", A),
    ("On the deck, Bosun in the fog, the rope between his paws.", "otter deck", ""),
    ("On the deck, Bosun in bright sunshine, the rope between his paws.", "otter deck", F),
    ("Bosun without his cap, drenched.", "otter deck", F),
    ("His cap floats on the waves.", "otter deck", A),
    ("Mara in oilskins at the tiller, water up to her ankles.", "mara/oilskins deck", ""),
    ("Mara in oilskins at the tiller, water up to her ankles.", "mara deck", F),
    ("Mara's yellow suit hangs from the boom to dry.", "mara/oilskins deck", A),
    ("Mara's mother had warned her about the moray.", "mara deck", U),
    ("The eel curls three times round the mast.", "eel wreck", ""),
    (
        "The eel, curled round the mast, listens to the professor, who reads aloud from a wet book.",
        "eel prof wreck",
        "",
    ),
    ("The eel, curled round the mast, listens to the professor, who reads aloud from a wet book.", "eel wreck", N),
    ("Lady Murk has taken off her pearls and put them round Mara's neck.", "eel mara wreck", ""),
    ("Lady Murk has taken off her pearls and put them round Mara's neck.", "eel wreck", N),
    ("Mara opens the chest, finds a second chest, opens it too and laughs.", "mara wreck", T),
    ("In the chest lies nothing but another chart.", "wreck", N),
    ("Not even the professor knows what that means.", "prof wreck", U),
    ("Mara and Bosun lie on the deck, back to back.", "mara otter deck", ""),
    ("Mara and Bosun lie on the deck, back to back, and think of home.", "mara otter deck", ""),
    ("They sail home through the night.", "mara otter deck", M),
    ("They dry their socks over the stove.", "mara otter deck", ""),
    ("A whale with barnacles on its back and a top hat of foam watches them from the horizon.", "mara otter deck", ""),
    ("An old fisherman with a wooden leg, a blue jersey and a net full of boots stares at them.", "mara otter deck", D),
)


HOUSE = World(
    {
        "ben": person("ben", "Ben", "Ben, a boy of eight: glasses, a green pullover, one sock down."),
        "ada": person(
            "ada", "Great-aunt Ada", "Great-aunt Ada, ninety: a silver bob, a walking stick, a violet cardigan."
        ),
        "ghost": person("ghost", "Mr Hush", "Mr Hush, a ghost in a frock coat, pale blue and see-through."),
        "cat": person("cat", "Pepper", "Pepper, a grey cat with white paws."),
        "movers": person("movers", "The movers", "The movers, two broad men in brown overalls."),
        "clock": Member("clock", "prop", "Clock", "A grandfather clock without hands.", views=(view("clock"),)),
        "stick": Member(
            "stick", "prop", "Stick", "A walking stick with a duck's head.", owner="ada", views=(view("stick"),)
        ),
        "attic": place("attic", "Attic", "An attic full of trunks, a round window, in the late afternoon."),
        "stairs": place("stairs", "Staircase", "A creaking staircase with portraits."),
        "parlour": place("parlour", "Parlour", "A parlour with sheets over the furniture, in the morning."),
        "street": place("street", "Street", "A street with plane trees, in autumn."),
    },
    {"char": StyleWords("char", "Charcoal", "Charcoal on rough paper, much white.", ("charcoal",), donts=("cobwebs",))},
    {
        "ada": ("Ada", "the great-aunt", "his great-aunt"),
        "ghost": ("Hush", "the ghost"),
        "cat": ("the cat",),
        "movers": ("movers",),
        "clock": ("the clock",),
        "stick": ("the stick",),
        "attic": ("the attic",),
        "stairs": ("the stairs", "the staircase"),
        "parlour": ("the parlour",),
        "street": ("the street",),
    },
    {"ben": {"sheet": "A bed sheet with two holes."}, "attic": {"night": "The attic by night."}},
    {"ben": (("", "pullover", "green"),), "ada": (("", "cardigan", "purple"),)},
)

HOUSE_BRIEFS = rows(
    HOUSE,
    "char",
    ("Ben stands in front of the door that is always locked.", "ben stairs", ""),
    ("Ben stands in front of the door that is always locked, and it is open.", "ben stairs", ""),
    (
        "Great-aunt Ada leans on her stick and looks up at the ceiling, where the footsteps are.",
        "ada stick parlour",
        "",
    ),
    ("Great-aunt Ada leans on her stick and looks up at the ceiling, where the footsteps are.", "ada parlour", N),
    ("Ada's cardigan, violet as ever, on the back of a chair.", "parlour", ""),
    ("Ada's cardigan, violet as ever, on the back of a chair.", "ada parlour", A),
    ("Ada in a grey cardigan by the window.", "ada parlour", F),
    ("Pepper arches her back at an empty armchair.", "cat parlour", ""),
    ("Pepper arches her back at an empty armchair.", "cat ghost parlour", A),
    ("In the armchair, hardly more than a breath on the air, sits Mr Hush.", "ghost parlour", ""),
    ("In the armchair, hardly more than a breath on the air, sits Mr Hush.", "parlour", N),
    ("Ben does not see him yet.", "ben parlour", ""),
    ("Ben walks right through the ghost.", "ben ghost parlour", M),
    ("Ben, halfway through the ghost, shivers.", "ben ghost parlour", ""),
    ("Ben, halfway through the ghost, shivers.", "ben parlour", N),
    ("The movers have parked in front of the house.", "street", N),
    ("The movers carry the clock out of the house, one at each end.", "movers clock street", ""),
    ("The movers carry the clock out of the house, one at each end.", "movers street", N),
    ("One mover wipes his forehead, the other has sat down on the kerb.", "movers street", ""),
    ("One mover wipes his forehead.", "movers ben street", A),
    ("Plane leaves lie on the bonnet of the van.", "street", ""),
    ("The street on the hottest day of summer.", "street", F),
    ("The portraits on the stairs have turned their heads.", "stairs", ""),
    ("The portraits on the stairs have turned their heads.", "ben stairs", A),
    ("In one of the portraits: Mr Hush, in oils.", "stairs", ""),
    ("In one of the portraits: Mr Hush, in oils.", "ghost stairs", A),
    ("Ben, in his sheet, boos at the mirror, in which nobody stands.", "ben/sheet attic", ""),
    ("Ben, in his sheet, boos at the mirror, in which nobody stands.", "ben attic", F),
    ("Ben's pullover is full of dust, no longer green but grey.", "ben attic", F),
    ("Light falls through the round window onto a trunk with a name on it.", "attic", ""),
    ("The attic in the first light of the morning.", "attic", F),
    ("Moonlight on the trunks.", "attic", F),
    ("Moonlight on the trunks.", "attic/night", ""),
    ("A hand, blue and see-through, offers Ben a key.", "ben ghost attic", ""),
    ("A hand, blue and see-through, offers Ben a key.", "ben attic", ""),
    ("He takes it, turns it in the lock of the trunk, lifts the lid.", "ben attic", T),
    ("Letters, hundreds of them, tied with ribbon.", "attic", ""),
    ("All of them are from Ada to Mr Hush.", "attic", ""),
    ("Once they had danced together every Sunday.", "attic", U),
    ("Ben reads by torchlight with the cat on his feet.", "ben cat attic", ""),
    ("Ben reads by torchlight with the cat on his feet.", "ben attic", N),
    ("Downstairs the great-aunt hums a waltz.", "ada parlour", ""),
    ("Downstairs the great-aunt hums a waltz.", "ada ben parlour", A),
    ("Ada, her stick flung aside, dances with someone we cannot see.", "ada parlour", N),
    ("Ada, her stick flung aside, dances with someone we cannot see.", "ada ghost parlour", N),
    ("Where the clock stood there is a bright patch on the wallpaper.", "parlour", ""),
    ("Where the clock stood there is a bright patch on the wallpaper.", "clock parlour", A),
    ("Both of them would miss the house terribly.", "ben ada parlour", U),
    ("Ben tells the movers to bring everything back.", "ben movers street", ""),
    ("A policewoman with white gloves, a whistle and a huge umbrella directs the removal van.", "street", D),
)
