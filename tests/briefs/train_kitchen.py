"""A hundred briefs with hand-made truth, on a night train (as notes of a storyboard) and in a palace kitchen, written when the twenty-four worlds before had taught
(docs/briefs.md has the first rates)."""

from __future__ import annotations

from juxtaform.core.brief.compose import Member, StyleWords
from tests.briefs.world import A, D, F, L, M, N, T, U, World, person, place, rows, view

TRAIN = World(
    {
        "nell": person("nell", "Nell", "Nell, a stowaway of twelve: freckles, a sailor cap, a coat with huge pockets."),
        "bassett": person(
            "bassett", "Inspector Bassett", "Inspector Bassett: a waxed moustache, a navy uniform, a ticket punch."
        ),
        "moth": person("moth", "The Moth", "The Moth, a grey lady: a veil, long gloves, a dress like dust."),
        "pip": person("pip", "Pip", "Pip, a dormouse in a matchbox, with a red thread round her neck."),
        "cook": person("cook", "August", "August, the cook: a chef's hat, a burnt thumb, a big belly."),
        "case": Member(
            "case", "prop", "Violin case", "A violin case with a brass lock.", owner="moth", views=(view("case"),)
        ),
        "ticket": Member(
            "ticket", "prop", "Ticket", "A golden ticket with a hole.", owner="nell", views=(view("ticket"),)
        ),
        "dining": place("dining", "Dining car", "A dining car with pink lamps, at night."),
        "roof": place("roof", "Roof", "The roof of the train, in snow."),
        "sleeper": place("sleeper", "Compartment", "A sleeping compartment with two bunks."),
        "platform": place("platform", "Platform", "An empty platform with one clock, at dawn."),
    },
    {
        "lino": StyleWords(
            "lino", "Linocut", "Two-colour linocut, hard edges.", ("linocut", "hard edges"), donts=("smoke",)
        )
    },
    {
        "bassett": ("the inspector", "Bassett"),
        "moth": ("the grey lady",),
        "pip": ("the dormouse",),
        "cook": ("the cook",),
        "case": ("the case",),
        "ticket": ("the ticket",),
        "dining": ("the dining car",),
        "roof": ("the roof",),
        "sleeper": ("the compartment",),
        "platform": ("the platform",),
    },
    {"nell": {"waiter's jacket": "A white waiter's jacket, much too big."}, "roof": {"summer": "The roof in hot sun."}},
    {"bassett": (("", "uniform", "blue"),), "moth": (("", "dress", "grey"),)},
    aspect="16:9",
)

TRAIN_BRIEFS = rows(
    TRAIN,
    "lino",
    ("WIDE: the dining car, every table set, nobody at any of them.", "dining", ""),
    ("WIDE: the dining car, every table set, nobody at any of them.", "cook dining", A),
    ("CU Nell: one eye above the edge of a tablecloth.", "nell dining", ""),
    ("CU Nell: one eye above the edge of a tablecloth.", "dining", N),
    ("OTS Bassett, the ticket punch snapping.", "bassett dining", ""),
    ("Bassett's boots stop beside the table.", "bassett dining", ""),
    ("Her POV: polished boots, a hem, a dropped fork.", "nell dining", ""),
    ("The Moth, alone at the window, gloves on.", "moth dining", ""),
    ("The Moth, alone at the window, gloves off.", "moth dining", F),
    ("A moth circles the pink lamp.", "dining", ""),
    ("A moth on the pink lamp.", "moth dining", A),
    ("August brings soup. Nobody ordered soup.", "cook dining", U),
    ("August slips, the soup flies, plates crash.", "cook dining", ""),
    ("Two-shot: Nell and the cook, nose to nose over a pot.", "nell cook dining", ""),
    ("Two-shot: Nell and the cook, nose to nose over a pot.", "nell dining", N),
    ("Nell in the waiter's jacket, sleeves to the floor.", "nell/waiter's_jacket dining", ""),
    ("Nell in the waiter's jacket, sleeves to the floor.", "nell dining", F),
    ("Nell, still in the jacket, carries eleven plates.", "nell/waiter's_jacket dining", ""),
    ("INSERT: the golden ticket, no hole yet.", "ticket dining", F),
    ("INSERT: the golden ticket between two gloved fingers.", "ticket dining", ""),
    ("INSERT: the golden ticket between two gloved fingers.", "ticket moth dining", ""),
    ("INSERT: a matchbox, ajar. Whiskers.", "pip sleeper", ""),
    ("Pip nibbles the red thread.", "pip sleeper", ""),
    ("Pip, without her thread, asleep on the pillow.", "pip sleeper", F),
    ("The upper bunk sags. Someone heavy is up there.", "sleeper", ""),
    ("The inspector's snoring shakes the water glass.", "bassett sleeper", ""),
    ("No inspector far and wide.", "nell sleeper", A),
    ("No inspector far and wide.", "bassett sleeper", A),
    ("Nell on the roof, cap gone, hair in the wind.", "nell roof", F),
    ("Nell crawls along the roof, one hand in front of the other.", "nell roof", M),
    ("Nell flat on the roof. A tunnel mouth ahead.", "nell roof", ""),
    ("Snow, snow, snow. Somewhere in it: a violin.", "roof", ""),
    ("Nell on the roof in July heat.", "nell roof", F),
    ("Nell on the roof, sun-burnt, squinting.", "nell roof/summer", ""),
    ("The grey lady stands upright between two carriages as if in a drawing room.", "moth roof", ""),
    ("The grey lady hands the case to Nell.", "moth nell case roof", ""),
    ("The grey lady hands the case to Nell.", "moth nell roof", N),
    ("Bassett, in a red uniform, whistle in his mouth.", "bassett platform", F),
    ("Bassett, arms spread, blocks the door.", "bassett sleeper", ""),
    ("What does he want with a violin?", "bassett sleeper", U),
    ("The train will be late, as always.", "platform", U),
    ("The clock shows ten to five.", "platform", ""),
    ("Same as before, closer.", "nell platform", "", {"before": "Nell beside the clock.", "had": "nell platform"}),
    ("Nell beside the clock. August waves from the step.", "nell platform", N),
    ("Nell jumps off, rolls, runs for the gate.", "nell platform", T),
    ("A boy with a bugle, a velvet suit and a monkey on his shoulder waits under the clock.", "platform", D),
    ("Steam. When it clears, the platform is empty.", "platform", T),
    ("Smoke over the roofs.", "platform", "dont"),
    ("The case, open: no violin, only moths.", "case platform", ""),
    ("Nell would never tell a soul.", "nell platform", U),
)


KITCHEN = World(
    {
        "tilda": person("tilda", "Tilda", "Tilda, a kitchen maid of ten: floury arms, a blue headscarf, wooden shoes."),
        "king": person("king", "The king", "The king, small and round: a paper crown, a nightgown, cold feet."),
        "onion": person(
            "onion", "Madame Cipolle", "Madame Cipolle, head cook: a bun like an onion, a ladle, a black dress."
        ),
        "dragon": person(
            "dragon", "Ember", "Ember, a stove dragon no bigger than a hen: coal-black scales, orange eyes."
        ),
        "twins": person("twins", "The scullions", "The scullions, two boys with big ears and grey smocks."),
        "ladle": Member("ladle", "prop", "Ladle", "A silver ladle.", owner="onion", views=(view("ladle"),)),
        "cake": Member("cake", "prop", "Cake", "A cake of seven tiers with sugar swans.", views=(view("cake"),)),
        "kitchen": place("kitchen", "Kitchen", "A vaulted kitchen with copper pans, by firelight."),
        "pantry": place("pantry", "Pantry", "A pantry with hanging hams."),
        "hall": place("hall", "Throne room", "A throne room with a frozen floor, in winter light."),
        "herbs": place("herbs", "Herb garden", "A walled herb garden, on a summer morning."),
    },
    {
        "wc": StyleWords(
            "wc", "Watercolour", "Loose watercolour with ink lines.", ("watercolour", "ink lines"), donts=("knives",)
        )
    },
    {
        "onion": ("Cipolle", "the head cook", "Madame"),
        "dragon": ("the dragon",),
        "twins": ("scullions", "the two boys"),
        "ladle": ("the ladle",),
        "cake": ("the cake",),
        "kitchen": ("the kitchen",),
        "pantry": ("the pantry",),
        "hall": ("the throne room",),
        "herbs": ("the herb garden", "the garden"),
    },
    {
        "king": {"coronation robe": "A robe of red velvet and ermine."},
        "tilda": {"sunday dress": "A yellow Sunday dress."},
    },
    {"tilda": (("", "headscarf", "blue"),), "dragon": (("", "scales", "black"), ("", "eyes", "orange"))},
)

KITCHEN_BRIEFS = rows(
    KITCHEN,
    "wc",
    ("Long before sunrise Tilda is already kneading.", "tilda kitchen", ""),
    ("Flour hangs in the air like mist.", "kitchen", ""),
    ("Flour hangs in the air like mist.", "tilda kitchen", A),
    ("In the stove two orange eyes open.", "dragon kitchen", ""),
    ("In the stove two orange eyes open.", "kitchen", ""),
    ("Ember sneezes, and every candle is lit.", "dragon kitchen", ""),
    ("Ember blinks with her green eyes.", "dragon kitchen", F),
    ("Madame Cipolle tastes, frowns and reaches for the salt.", "onion kitchen", ""),
    ("Madame tastes the soup with her eyes closed.", "onion kitchen", ""),
    ("Madame taps the pot with the ladle.", "onion kitchen", N),
    ("Madame taps the pot with the ladle.", "onion ladle kitchen", ""),
    ('"More pepper!" cries Cipolle. "The king is coming!"', "onion kitchen", ""),
    ('"More pepper!" cries Cipolle. "The king is coming!"', "onion king kitchen", ""),
    ("The scullions wash a mountain of plates.", "twins kitchen", ""),
    ("One of the scullions has fallen asleep in the sink.", "twins kitchen", ""),
    ("Four big ears stick out behind the flour sacks.", "twins pantry", ""),
    ("Tilda counts the hams: one is missing.", "tilda pantry", ""),
    ("Tilda suspects the scullions.", "tilda twins pantry", U),
    ("A trail of crumbs leads to the window.", "pantry", ""),
    ("There sits the king, chewing.", "king pantry", ""),
    ("There sits the king, chewing.", "pantry", N),
    ("The king has not slept a wink since Tuesday.", "king pantry", U),
    ("His Majesty offers Tilda the bone.", "king tilda pantry", ""),
    ("She curtsies in her wooden shoes.", "tilda pantry", ""),
    ("She curtsies, barefoot.", "tilda pantry", F),
    ("The king's bare toes on the cold tiles.", "king kitchen", ""),
    ("The king in his coronation robe fills the whole door.", "king/coronation_robe kitchen", ""),
    ("The king in his coronation robe fills the whole door.", "king kitchen", F),
    ("Tilda in her yellow dress, for it is Sunday.", "tilda/sunday_dress kitchen", ""),
    ("Tilda in a red headscarf at the window.", "tilda kitchen", F),
    ("Ember lies curled up in the bread basket.", "dragon kitchen", ""),
    ("The bread basket snores.", "dragon kitchen", A),
    ("The cake has seven tiers and a crack.", "cake kitchen", ""),
    ("Tilda and the scullions carry the cake up the stairs.", "tilda twins cake kitchen", ""),
    ("Tilda and the scullions carry the cake up the stairs.", "tilda twins kitchen", N),
    ("A swan breaks off and slides down the icing.", "cake kitchen", M),
    ("The throne is empty, the crown lies on the cushion.", "hall", ""),
    ("The throne room in the heat of August.", "hall", F),
    ("Icicles hang from the chandelier.", "hall", ""),
    ("Everyone skates, even Madame.", "onion hall", ""),
    ("Everyone skates, even Madame.", "onion tilda king twins hall", ""),
    ("Madame holds on to the king, the king holds on to the cake.", "onion king cake hall", ""),
    ("Madame holds on to the king, the king holds on to the cake.", "onion cake hall", N),
    ("If only Ember were here to melt the ice!", "tilda hall", U),
    ("In the herb garden the thyme is in flower.", "herbs", ""),
    ("Tilda, up to her knees in sage, calls for the dragon.", "tilda herbs", ""),
    ("Tilda, up to her knees in sage, calls for the dragon.", "tilda dragon herbs", A),
    ("A gardener with a straw hat, a glass eye and a parrot leans on his spade.", "herbs", D),
    ("On plain white background, Ember holds a sprig of mint.", "dragon herbs", L),
    ("Later that year they opened an inn.", "tilda king herbs", U),
)
