"""Fifty briefs with hand-made truth, in an eighth world, written when all rules stood, and mended after their first reading (docs/briefs.md has the first rates)."""

from __future__ import annotations

from juxtaform.core.brief.compose import Member, StyleWords
from tests.brief_table import World, person, place, view
from tests.brief_table import _rows as rows
from tests.brief_table_fresh import A, D, F, M, N, T, U

VILLAGE = World(
    {
        "mira": person("mira", "Mira", "Mira, a baker's daughter of twelve: red curls, a white apron, brown clogs."),
        "josef": person("josef", "Josef", "Josef, a chimney sweep: a black coat, a top hat, soot on his nose."),
        "baker": person("baker", "Mrs Holm", "Mrs Holm, the baker: round, rosy, a blue dress, flour on her arms."),
        "crow": person("crow", "Korax", "Korax, a crow with one white feather.", ("one white feather",)),
        "giant": person("giant", "The Frost", "The Frost, a giant of ice with a beard of icicles."),
        "ladder": Member(
            "ladder", "prop", "Ladder", "A long ladder with eleven rungs.", owner="josef", views=(view("ladder"),)
        ),
        "bell": Member("bell", "prop", "Bell", "A bronze bell with a crack.", views=(view("bell"),)),
        "bakery": place("bakery", "Bakery", "A warm bakery, its oven glowing, before dawn."),
        "roofs": place("roofs", "Roofs", "Snowy roofs and chimneys, at night."),
        "tower": place("tower", "Bell tower", "A wooden bell tower with swallows' nests."),
        "square": place("square", "Square", "The village square with a frozen fountain, at noon."),
    },
    {"wood": StyleWords("wood", "Woodcut", "Black woodcut with one tint.", ("woodcut",), donts=("cars",))},
    {
        "baker": ("the baker", "her mother"),
        "josef": ("the sweep",),
        "crow": ("the crow",),
        "giant": ("the giant", "Frost"),
        "bell": ("the bell",),
        "tower": ("the tower",),
    },
    {"mira": {"Sunday dress": "A green velvet dress."}},
    {"mira": (("", "apron", "white"),), "josef": (("", "coat", "black"),), "baker": (("", "dress", "blue"),)},
)

WORKED = rows(
    VILLAGE,
    "wood",
    ("Mira kneads the dough, her sleeves rolled up.", "mira bakery", ""),
    ("Mrs Holm pulls a tray of buns out of the oven.", "baker bakery", ""),
    ("Korax struts along the ridge of the roof.", "crow roofs", ""),
    ("Josef climbs out of the chimney, black from head to foot.", "josef roofs", ""),
    ("Josef and the crow share a bun on the ridge.", "josef crow roofs", ""),
    ("Josef and the crow share a bun on the ridge.", "josef roofs", N),
    ("The giant leans over the church and breathes on the bell.", "giant bell tower", ""),
    ("The giant leans over the church and breathes on the bell.", "giant tower", N),
    ("Everything the Frost touches turns white.", "giant square", ""),
    ("Where the Frost has passed, even the smoke is frozen.", "square", ""),
    ("Mira dreads the winter.", "mira bakery", U),
    ("Mira's breath hangs before her face like a cloud.", "mira square", ""),
    ("Mira in her Sunday dress curtsies to the giant.", "mira/Sunday_dress giant square", ""),
    ("Mira in her Sunday dress curtsies to the giant.", "mira giant square", F),
    ("Mira in a yellow apron carries a basket of rolls.", "mira square", F),
    ("Josef takes off his top hat; a crow sits under it.", "josef crow roofs", ""),
    ("Josef without his top hat, his hair on end.", "josef roofs", F),
    ("The ladder stands against the tower. Nobody is on it.", "ladder tower", ""),
    ("The ladder stands against the tower. Nobody is on it.", "ladder josef tower", A),
    ("Mira climbs the ladder, crawls through the hatch and grabs the rope.", "mira ladder tower", T),
    ("The bell has never been rung.", "bell tower", U),
    ("Mira hangs on the rope with her feet in the air; above her the bell swings.", "mira bell tower", ""),
    ("Mira hangs on the rope with her feet in the air; above her the bell swings.", "mira tower", N),
    ("The sound travels over the hills.", "square", ""),
    ("A man with a fiddle case and a fox fur round his neck skates across the fountain.", "square", f"{D} {M}"),
    ("Children throw snowballs at the statue of the giant.", "square", ""),
    ("Mira asks her mother for the key.", "mira baker bakery", ""),
    ("Mira asks her mother for the key.", "mira bakery", N),
    ("Mrs Holm shakes her head.", "baker bakery", ""),
    ("Her mother's keys jingle on the hook.", "mira bakery", ""),
    ("If Mira is quick, the buns will still be warm.", "mira square", U),
    ("Steam rises from the basket.", "square", ""),
    ("Steam rises from the basket.", "mira square", A),
    ("The giant holds the bun between two fingers, no bigger than a pea.", "giant square", ""),
    ("The giant has never tasted bread before. He closes his eyes.", "giant square", ""),
    ("A tear runs into his beard and freezes there.", "giant square", ""),
    ("Mira pats his thumb.", "mira giant square", ""),
    ("Korax tells the whole roof what he saw.", "crow roofs", ""),
    ("Korax, his white feather ruffled, on the cold chimney.", "crow roofs", ""),
    ("Korax without his white feather.", "crow roofs", F),
    ("The square by moonlight.", "square", F),
    ("Icicles as long as swords hang from the arch.", "square", ""),
    ("The Frost melts slowly into the fountain.", "giant square", M),
    ("A puddle, a bun, a single icicle.", "square", ""),
    ("Spring was early that year.", "square", U),
    ("Swallows circle the tower.", "tower", ""),
    ("Mira and Josef, back to back, eat their soup.", "mira josef bakery", ""),
    ("Mira and Josef, back to back, eat their soup.", "mira bakery", N),
    ("Josef's coat on the nail drips.", "bakery", ""),
    ("Every evening Mira puts a bun on the sill for the giant.", "mira bakery", ""),
)
