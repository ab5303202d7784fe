"""Sixty briefs with hand-made truth, in an eleventh world, written when the ninth and tenth had taught, and read once (docs/briefs.md has the rates)."""

from __future__ import annotations

from juxtaform.core.brief.compose import Member, StyleWords
from tests.brief_table import World, person, place, view
from tests.brief_table import _rows as rows
from tests.brief_table_fresh import A, D, F, M, N, T, U

TOWER_BLOCK = World(
    {
        "nadia": person(
            "nadia", "Nadia", "Nadia, a girl of nine: a black fringe, an orange tracksuit, white trainers."
        ),
        "grandad": person(
            "grandad", "Mr Okoro", "Mr Okoro, a caretaker of seventy: grey stubble, a brown cardigan, a bunch of keys."
        ),
        "bean": person("bean", "Bean", "Bean, a green parrot with a bald spot.", ("a bald spot",)),
        "kit": person("kit", "Kit", "Kit, a boy of twelve on crutches: red hair, a blue hoodie."),
        "lady": person("lady", "Madame Vex", "Madame Vex, a tall lady: a silver coat, long red nails, dark glasses."),
        "cage": Member("cage", "prop", "Cage", "A round wire cage with a swing in it.", views=(view("cage"),)),
        "trolley": Member(
            "trolley",
            "prop",
            "Trolley",
            "A shopping trolley with one squeaking wheel.",
            owner="grandad",
            views=(view("trolley"),),
        ),
        "roof": place("roof", "Roof garden", "A roof garden with beans in tubs, at sunset."),
        "lift": place("lift", "Lift", "A narrow lift with a cracked mirror."),
        "flat": place("flat", "Flat 12", "A small flat full of plants, in the morning."),
        "yard": place("yard", "Yard", "A yard with bins and a basketball hoop, in rain."),
    },
    {
        "marker": StyleWords(
            "marker", "Marker", "Flat marker colours with thick outlines.", ("flat", "outlines"), donts=("logos",)
        )
    },
    {
        "grandad": ("Okoro", "the caretaker"),
        "bean": ("the parrot",),
        "lady": ("Vex", "the lady"),
        "cage": ("the cage",),
        "roof": ("the roof",),
        "lift": ("the lift",),
        "flat": ("the flat",),
        "yard": ("the yard",),
    },
    {"nadia": {"pyjamas": "Yellow pyjamas."}, "kit": {"costume": "A pirate costume with a paper hat."}},
    {"nadia": (("", "tracksuit", "orange"),), "lady": (("", "coat", "silver"),)},
)

ONCE = rows(
    TOWER_BLOCK,
    "marker",
    ("Nadia crouches behind the bins and holds her breath.", "nadia yard", ""),
    ("Bean clings to the hoop and screeches.", "bean yard", ""),
    ("Bean clings to the hoop and screeches.", "bean nadia yard", A),
    ("Kit aims the ball at the hoop, one crutch under his arm.", "kit yard", ""),
    ("Mr Okoro rattles his keys.", "grandad lift", ""),
    ("Mr Okoro rattles his keys.", "nadia lift", f"{N} {A}"),
    ("The trolley squeaks across the yard.", "trolley yard", M),
    ("Nadia pushes the trolley; Kit sits in it like a king.", "nadia kit trolley yard", ""),
    ("Nadia pushes the trolley; Kit sits in it like a king.", "nadia kit yard", N),
    ("In the cracked mirror Madame Vex paints her lips.", "lady lift", ""),
    ("The doors close on Madame Vex's silver coat.", "lady lift", ""),
    ("Madame Vex loathes parrots.", "lady lift", U),
    ("A feather drifts down the stairwell.", "lift", ""),
    ("An empty cage swings from the ceiling.", "cage flat", ""),
    ("An empty cage swings from the ceiling.", "bean cage flat", A),
    ("Bean has chewed through the wire. The cage is empty.", "bean cage flat", ""),
    ("Nadia imagines Bean alone in the rain.", "nadia flat", U),
    ("Nadia, in her pyjamas, eats toast at the window.", "nadia/pyjamas flat", ""),
    ("Nadia, in her pyjamas, eats toast at the window.", "nadia flat", F),
    ("Nadia in a green tracksuit bounces a ball.", "nadia yard", F),
    ("Kit with his black hair under the hood.", "kit yard", F),
    ("Kit as a pirate, the paper hat over one eye.", "kit/costume roof", ""),
    ("Up on the roof Mr Okoro ties up his beans.", "grandad roof", ""),
    ("Up on the roof Mr Okoro ties up his beans.", "grandad yard", F),
    ("The roof garden in the midday heat.", "roof", F),
    ("The city beneath them is a carpet of lights.", "nadia kit roof", ""),
    ("The parrot perches on the caretaker's head.", "bean grandad roof", ""),
    ("The parrot perches on the caretaker's head.", "bean roof", N),
    ("A green tail sticks out of the watering can.", "bean roof", ""),
    ("Long red nails close round the handle of the cage.", "lady cage flat", ""),
    ("Long red nails close round the handle of the cage.", "cage flat", N),
    ("Whoever finds the parrot will be rich.", "yard", U),
    ("A notice with Bean's picture hangs in the lift.", "lift", ""),
    ("Nadia tears the notice off the wall.", "nadia lift", ""),
    ("The lift has been out of order since Christmas.", "lift", U),
    ("Kit hobbles up the stairs, step by step.", "kit lift", M),
    ("Kit on the stairs, his crutches beside him.", "kit lift", ""),
    ("Nadia sprints past the bins after the silver coat.", "nadia yard", M),
    ("Nadia and Kit look at each other.", "nadia kit flat", ""),
    ("Nadia and Kit look at each other.", "nadia flat", N),
    ("She nods; he grins.", "nadia kit flat", ""),
    ("Everybody in the yard looks up.", "nadia kit grandad yard", ""),
    ("Two policemen with wet capes and a yawning dog block the door.", "yard", D),
    ("Madame Vex opens her umbrella, steps into a puddle and curses.", "lady yard", T),
    ("The umbrella, turned inside out, in a puddle.", "yard", ""),
    ("The dark glasses lie in the puddle.", "lady yard", A),
    ("Nobody has ever seen her eyes.", "lady yard", U),
    ("Without her glasses Madame Vex blinks like an owl.", "lady yard", F),
    ("Mr Okoro hands Nadia the smallest of his keys.", "grandad nadia lift", ""),
    ("Mr Okoro hands Nadia the smallest of his keys.", "grandad lift", N),
    ("Bean on Nadia's shoulder, his bald spot shining.", "bean nadia roof", ""),
    ("Bean on Nadia's shoulder, his bald spot shining.", "bean roof", N),
    ("If only parrots could talk!", "bean roof", U),
    ("“Nadia!” squawks Bean from the top of the hoop.", "bean yard", ""),
    ("Laundry flaps between the balconies.", "yard", ""),
    ("The yard, seen from the roof, no bigger than a stamp.", "roof", ""),
    ("Sun on the wet bins.", "yard", F),
    ("Kit's crutches lean against a tub of beans.", "roof", ""),
    ("They share one umbrella.", "nadia kit yard", ""),
    ("Bean flaps away over the roofs.", "bean roof", M),
)
