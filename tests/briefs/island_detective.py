"""A hundred briefs with hand-made truth, of a shipwrecked choir on an island (as descriptions of pictures to be made) and of a pigeon who is a detective (as a comic's
script), written when the thirty worlds before had taught (docs/briefs.md has the first rates)."""

from __future__ import annotations

from juxtaform.core.brief.compose import Member, StyleWords
from tests.briefs.world import A, D, F, L, M, N, T, U, World, person, place, rows, view

ISLAND = World(
    {
        "lotte": person(
            "lotte", "Lotte", "Lotte, the smallest singer, nine: red braids, a choir robe in white, bare feet."
        ),
        "maestro": person(
            "maestro", "Maestro Brandt", "Maestro Brandt, thin as a baton: a tailcoat, a grey goatee, a pince-nez."
        ),
        "tenors": person("tenors", "The tenors", "The tenors, three stout men in white robes."),
        "parrot": person("parrot", "Solfeggio", "Solfeggio, a green parrot with one white feather."),
        "hermit": person(
            "hermit", "The hermit", "The hermit: a beard down to his knees, a skirt of palm leaves, a bone flute."
        ),
        "organ": Member("organ", "prop", "Harmonium", "A small harmonium with a broken pedal.", views=(view("organ"),)),
        "flute": Member("flute", "prop", "Bone flute", "A bone flute.", owner="hermit", views=(view("flute"),)),
        "beach": place("beach", "Beach", "A white beach with palm trees, at noon."),
        "cave": place("cave", "Cave", "A cave with bats and dripping stones."),
        "jungle": place("jungle", "Jungle", "A dense jungle, green light, in the rain."),
        "raft": place("raft", "Raft", "A raft of barrels on the open sea, under the stars."),
    },
    {
        "litho": StyleWords(
            "litho", "Lithograph", "Lithograph with crayon grain, three colours.", ("crayon grain",), donts=("ships",)
        )
    },
    {
        "maestro": ("Brandt", "the maestro", "the conductor"),
        "tenors": ("the tenors",),
        "parrot": ("the parrot",),
        "hermit": ("the hermit",),
        "organ": ("the harmonium",),
        "flute": ("the flute",),
        "beach": ("the beach",),
        "cave": ("the cave",),
        "jungle": ("the jungle",),
        "raft": ("the raft",),
    },
    {
        "lotte": {"leaf dress": "A dress of big leaves."},
        "maestro": {"shirtsleeves": "A torn shirt, sleeves rolled up."},
    },
    {"lotte": (("", "braids", "red"), ("", "robe", "white")), "parrot": (("", "feathers", "green"),)},
)

ISLAND_BRIEFS = rows(
    ISLAND,
    "litho",
    ("A wide view of the beach with a row of footprints that ends at the water.", "beach", ""),
    ("A wide view of the beach with a row of footprints that ends at the water.", "lotte beach", A),
    ("Lotte kneels beside the harmonium and pours seawater out of it.", "lotte organ beach", ""),
    ("Lotte kneels beside the harmonium and pours seawater out of it.", "lotte beach", N),
    ("Maestro Brandt conducts the surf with a driftwood stick.", "maestro beach", ""),
    ("Brandt in shirtsleeves, his tailcoat spread out on a rock to dry.", "maestro/shirtsleeves beach", ""),
    ("Brandt in shirtsleeves, his tailcoat spread out on a rock to dry.", "maestro beach", F),
    ("The conductor's pince-nez has lost a lens.", "maestro beach", ""),
    ("The three tenors in a row under one palm tree, all in its narrow shade.", "tenors beach", ""),
    ("The three tenors in a row under one palm tree, all in its narrow shade.", "tenors lotte beach", A),
    ("One of the tenors holds a crab by its claw.", "tenors beach", ""),
    ("The tenors have been hungry since Friday.", "tenors beach", U),
    ("A parrot with a single white feather sits on the lid of the harmonium.", "parrot organ beach", ""),
    ("The parrot, blue from crest to tail, opens its beak.", "parrot jungle", F),
    ("Solfeggio shrieks a perfect A.", "parrot jungle", ""),
    ("Everyone looks up into the tree.", "lotte maestro tenors jungle", ""),
    ("Everyone looks up into the tree.", "jungle", ""),
    ("Rain runs down Lotte's braids.", "lotte jungle", ""),
    ("Rain runs down Lotte's black braids.", "lotte jungle", F),
    ("Not a drop of rain far and wide, the sun burns through the leaves of the jungle.", "jungle", F),
    ("They wade through the mud in single file, the maestro last.", "lotte tenors maestro jungle", M),
    ("They wade through the mud in single file, the maestro last.", "lotte tenors jungle", f"{M} {N}"),
    ("The harmonium on the shoulders of the tenors, Lotte on top of the harmonium.", "organ tenors lotte jungle", ""),
    ("The harmonium on the shoulders of the tenors, Lotte on top of the harmonium.", "organ tenors jungle", N),
    ("Lotte has the feeling that they are being watched.", "lotte jungle", U),
    ("Two eyes between the leaves.", "hermit jungle", ""),
    ("Two eyes between the leaves.", "jungle", ""),
    ("The hermit's beard is caught in a thorn bush.", "hermit jungle", ""),
    ("The hermit, freshly shaven, bows to the choir.", "hermit beach", F),
    ("He has not spoken to a human being for thirty years.", "hermit beach", U),
    ("He plays on his flute instead.", "hermit flute cave", ""),
    ("Bats hang from the ceiling of the cave like black fruit.", "cave", ""),
    ("The flute, close up, with the hermit's cracked fingers on its holes.", "flute cave", ""),
    ("The flute, close up, with the hermit's cracked fingers on its holes.", "flute hermit cave", ""),
    ("By the light of a single candle the hermit reads the notes upside down.", "hermit cave", ""),
    ("On plain white background Lotte with her mouth wide open.", "lotte cave", L),
    ("If the pedal breaks, they are lost.", "organ cave", U),
    ("Lotte in her dress of big leaves, arms akimbo.", "lotte/leaf_dress beach", ""),
    ("Lotte in her leaf dress, arms akimbo.", "lotte beach", F),
    ("Lotte, arms akimbo, beside a robe that hangs from a branch.", "lotte/leaf_dress beach", ""),
    ("Barrels, ropes, nails: the beach looks like a shipyard.", "beach", ""),
    ("The maestro hammers, drops the hammer, sucks his thumb.", "maestro beach", T),
    ("On the raft, far from any land, the choir sings to the moon.", "lotte maestro tenors raft", ""),
    ("On the raft in the glaring midday sun the tenors row.", "tenors raft", F),
    ("The raft drifts past an iceberg.", "raft", M),
    ("Lotte thinks she hears an echo.", "lotte raft", U),
    ("Lotte cups her hand to her ear.", "lotte raft", ""),
    ("Ships on the horizon!", "raft", "dont"),
    ("A captain with gold buttons, a telescope and a monkey on a chain leans over the rail and stares.", "raft", D),
    ("The hermit waves from the shore until he is only a dot.", "hermit beach", ""),
)


DETECTIVE = World(
    {
        "percy": person(
            "percy", "Percy Plume", "Percy Plume, a stout pigeon: a checked cape, a notebook, one toe missing."
        ),
        "mimi": person("mimi", "Mimi", "Mimi, a sparrow reporter: a red beret, a camera almost as big as she is."),
        "duke": person("duke", "The Duke", "The Duke, a black tomcat: a white bib, a gold collar, a torn ear."),
        "rats": person("rats", "The Rat Twins", "The Rat Twins, two rats in braces, one tall, one short."),
        "widow": person("widow", "Widow Swan", "Widow Swan: snow white, a black veil, a diamond ring on her foot."),
        "egg": Member("egg", "prop", "Golden egg", "A golden egg on a cushion.", views=(view("egg"),)),
        "cam": Member("cam", "prop", "Camera", "An old bellows camera.", owner="mimi", views=(view("cam"),)),
        "roofs": place("roofs", "Roofs", "Roofs with chimneys and aerials, in the evening."),
        "alley": place("alley", "Alley", "A narrow alley with dustbins, at night."),
        "vault": place("vault", "Vault", "A bank vault with a round steel door."),
        "cafe": place("cafe", "Café Crumb", "Café Crumb: a terrace with little round tables, in spring."),
    },
    {
        "noir": StyleWords(
            "noir", "Ink noir", "Black ink with heavy shadows, one accent colour.", ("heavy shadows",), donts=("guns",)
        )
    },
    {
        "percy": ("Percy", "the pigeon"),
        "mimi": ("the sparrow",),
        "duke": ("the Duke", "the tomcat"),
        "rats": ("the rats", "the twins"),
        "widow": ("the swan", "the widow"),
        "egg": ("the egg",),
        "cam": ("the camera",),
        "roofs": ("the roofs",),
        "alley": ("the alley",),
        "vault": ("the vault",),
        "cafe": ("the café",),
    },
    {"percy": {"disguise": "A false moustache and a bowler hat."}},
    {"mimi": (("", "beret", "red"),), "widow": (("", "veil", "black"),)},
)

DETECTIVE_BRIEFS = rows(
    DETECTIVE,
    "noir",
    ("Page 1, panel 1: Night over the alley. A single lamp.", "alley", ""),
    ("Page 1, panel 1: Night over the alley. A single lamp.", "percy alley", A),
    ("Panel 2: Percy turns up the collar of his cape.", "percy alley", ""),
    ("Panel 3: In front of him on the ground a feather. White.", "percy alley", ""),
    ("Panel 3: In front of him on the ground a feather. White.", "percy widow alley", A),
    ("Percy picks up the feather, sniffs at it and puts it in his notebook.", "percy alley", T),
    ('"A swan," murmurs Percy.', "percy alley", ""),
    ('"Only one lady in this town wears white," says Percy.', "percy widow alley", A),
    ("Percy without his cape, shivering.", "percy alley", F),
    ("Percy in disguise behind a newspaper. The moustache is crooked.", "percy/disguise cafe", ""),
    ("Percy in disguise behind a newspaper.", "percy cafe", F),
    ("Two round eyes above a newspaper.", "percy/disguise cafe", ""),
    ("Mimi perches on the back of a chair, the camera in front of her face.", "mimi cam cafe", ""),
    ("Mimi perches on the back of a chair, the camera in front of her face.", "mimi cafe", N),
    ("Flash! For a moment everything is white.", "cafe", ""),
    ("Flash! For a moment everything is white.", "mimi cafe", A),
    ("Mimi in a blue beret at the next table.", "mimi cafe", F),
    ("Mimi's beret on the empty chair.", "cafe", ""),
    ("Mimi's beret on the empty chair.", "mimi cafe", A),
    ("The swan lifts her veil and dabs at one eye.", "widow cafe", ""),
    ("The swan, in a white veil, dabs at one eye.", "widow cafe", F),
    ("Widow Swan has never told anybody about the egg.", "widow cafe", U),
    ("The terrace of the café under a thick blanket of snow.", "cafe", F),
    ("The waiter, a heron, drops his tray.", "cafe", ""),
    ("The Duke strolls along the gutter with his tail in the air.", "duke roofs", M),
    ("The Duke, tail in the air, on the edge of the gutter.", "duke roofs", ""),
    ("The Duke, tail in the air, on the edge of the gutter.", "roofs", N),
    ("A black shape between the chimneys.", "duke roofs", ""),
    ("A black shape between the chimneys.", "roofs", ""),
    ("His collar glitters.", "duke roofs", ""),
    ("Nobody suspects a duke.", "duke roofs", U),
    ("The roofs in the pale light of dawn.", "roofs", F),
    ("The twins dangle from a rope over the vault, upside down.", "rats vault", ""),
    ("The tall twin stands on the shoulders of the short one.", "rats vault", ""),
    ("The tall twin stands on the shoulders of the short one.", "rats duke vault", A),
    ("The egg is gone: an empty cushion, a dent in the velvet.", "vault", ""),
    ("The egg is gone: an empty cushion, a dent in the velvet.", "egg vault", A),
    ("The egg gleams on its cushion behind the steel door.", "egg vault", ""),
    ("The egg gleams on its cushion behind the steel door.", "vault", N),
    ("Could the Duke have bribed the rats?", "vault", U),
    ("Percy and Mimi, back to back, tied to a chimney.", "percy mimi roofs", ""),
    ("Percy and Mimi, back to back, tied to a chimney.", "percy roofs", N),
    ("The rope slips over his missing toe.", "percy roofs", ""),
    ("They chase the twins over the roofs.", "percy mimi rats roofs", M),
    ("The rats run straight into the arms of a chimney sweep.", "rats roofs", M),
    (
        "A chimney sweep with a ladder, a clover leaf in his hat and soot on his nose grabs them by their braces.",
        "rats roofs",
        D,
    ),
    ("Guns everywhere.", "alley", "dont"),
    ("Percy cracks the egg with a teaspoon.", "percy egg cafe", ""),
    ("Inside the egg there is a second, smaller egg.", "egg cafe", ""),
    ("Case closed. The sparrow sleeps in the pigeon's bowler hat.", "mimi percy/disguise cafe", ""),
)
