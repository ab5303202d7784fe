"""A hundred briefs with hand-made truth, of a village team (with short words said aloud) and of a toy factory (as a list of panels), written when the twenty-eight worlds
before had taught (docs/briefs.md has the first rates)."""

from __future__ import annotations

from juxtaform.core.brief.compose import Member, StyleWords
from tests.briefs.world import A, D, F, M, N, U, World, person, place, rows, view

PITCH = World(
    {
        "samir": person(
            "samir", "Samir", "Samir, the goalkeeper, ten: gloves like shovels, a red jersey, knees full of plasters."
        ),
        "greta": person(
            "greta", "Greta", "Greta, striker, eleven: a blonde plait, a blue jersey with the number nine."
        ),
        "coach": person(
            "coach", "Coach Wanda", "Coach Wanda: a whistle, a clipboard, a belly like a ball, track-suit in purple."
        ),
        "goat": person("goat", "Minister", "Minister, a billy goat with a bell, dirty white."),
        "gran": person(
            "gran", "Granny Ilse", "Granny Ilse, the oldest fan: a scarf three metres long, a flask of tea."
        ),
        "ball": Member("ball", "prop", "Ball", "A leather ball with a patch.", views=(view("ball"),)),
        "cup": Member("cup", "prop", "Cup", "A dented silver cup.", views=(view("cup"),)),
        "pitch": place("pitch", "Pitch", "A sloping football pitch beside a cow shed, in the rain."),
        "shed": place("shed", "Changing room", "A changing room in a cow shed, straw on the floor."),
        "bus": place("bus", "Team bus", "An old yellow bus."),
        "square": place("square", "Village square", "A village square with a lime tree, by night."),
    },
    {
        "poster": StyleWords(
            "poster", "Poster", "Poster colour, flat shapes, thick brush.", ("flat shapes",), donts=("logos",)
        )
    },
    {
        "coach": ("Wanda", "the coach"),
        "goat": ("the goat",),
        "gran": ("Ilse", "the granny"),
        "ball": ("the ball",),
        "cup": ("the cup",),
        "pitch": ("the pitch",),
        "shed": ("the changing room",),
        "bus": ("the bus",),
        "square": ("the square",),
    },
    {"greta": {"Sunday best": "A velvet dress and patent shoes."}, "pitch": {"sunny": "The pitch in bright sun."}},
    {
        "samir": (("", "jersey", "red"),),
        "greta": (("", "jersey", "blue"), ("", "hair", "yellow")),
        "coach": (("", "track-suit", "purple"),),
    },
)

PITCH_BRIEFS = rows(
    PITCH,
    "poster",
    ("It's pouring. Samir jumps on the spot to keep warm.", "samir pitch", ""),
    ("Samir dives to the left, the ball flies to the right.", "samir ball pitch", ""),
    ("Samir dives to the left, the ball flies to the right.", "samir pitch", N),
    ("Samir lies in the mud, face down.", "samir pitch", ""),
    ("A goalkeeper's glove in the mud.", "pitch", ""),
    ("A goalkeeper's glove in the mud.", "samir pitch", A),
    ("Greta's boot, the ball, nothing else.", "greta ball pitch", ""),
    ("Greta's boot, the ball, nothing else.", "ball pitch", N),
    ('"Pass!" yells Wanda through her hands.', "coach pitch", ""),
    ('"Pass, Greta!" yells Wanda through her hands.', "coach pitch", ""),
    ("Wanda has eaten her clipboard in despair: only a corner sticks out of her mouth.", "coach pitch", ""),
    ("The coach in a green track-suit.", "coach pitch", F),
    ("There's a goat on the pitch.", "goat pitch", ""),
    ("There's a goat on the pitch.", "pitch", ""),
    ("Not a soul on the pitch, only the goat.", "goat pitch", ""),
    ("Not a soul on the pitch, only the goat.", "goat samir pitch", A),
    ("The goat, the ball between its horns, trots towards the goal.", "goat ball pitch", M),
    ("The goat with the ball on its horns, eye to eye with Samir.", "goat ball samir pitch", ""),
    ("The goat with the ball on its horns, eye to eye with Samir.", "goat ball pitch", N),
    ("The goat eats the net.", "goat pitch", ""),
    ("Nobody has told the goat that it is offside.", "goat pitch", U),
    ("Granny Ilse drums on her flask.", "gran pitch", ""),
    ("Granny Ilse's scarf is wound round the whole team.", "gran samir greta pitch", ""),
    ("Granny Ilse knitted the scarf the year the old king died.", "gran pitch", U),
    ("Granny Ilse without her scarf: it must be serious.", "gran pitch", F),
    ("Rain drips from eleven noses.", "pitch", ""),
    ("The pitch under a spotless blue sky.", "pitch", F),
    ("The pitch under a spotless blue sky.", "pitch/sunny", ""),
    ("Sun at last! Steam rises from the jerseys.", "pitch", F),
    ("Half-time. They sit on milk cans and suck lemons.", "samir greta shed", ""),
    ("Half-time. They sit on milk cans and suck lemons.", "samir greta pitch", ""),
    ("Wanda draws arrows on the wall of the changing room, more and more of them.", "coach shed", ""),
    ("A cow looks in at the window.", "shed", ""),
    ("Samir pulls off his gloves, blows on his fingers and asks for tea.", "samir shed", ""),
    ("Samir, bare-handed, holds a lemon.", "samir shed", F),
    ("Greta ties her laces for the third time.", "greta shed", ""),
    ("Greta loosens her plait.", "greta shed", ""),
    ("Greta with her dark plait over her shoulder.", "greta shed", ""),
    ("Should she really shoot with her left?", "greta pitch", U),
    ("She shoots.", "greta pitch", ""),
    ("She shoots.", "greta goat pitch", A),
    ("The net bulges, the goat bleats, Ilse throws her flask into the air.", "goat gran pitch", ""),
    ("The net bulges, the goat bleats, Ilse throws her flask into the air.", "gran pitch", N),
    ("They carry Greta round the pitch on their shoulders.", "greta pitch", M),
    ("The bus won't start.", "bus", ""),
    ("The cup stands on the bonnet of the bus, full of rain.", "cup bus", ""),
    ("Everybody pushes. At the wheel: Minister.", "goat bus", ""),
    ("Greta in her Sunday best under the lime tree.", "greta/Sunday_best square", ""),
    ("Greta in her Sunday best under the lime tree.", "greta square", F),
    (
        "A mayor with a gold chain, a paper crown and an enormous pair of scissors stands beside the cup.",
        "cup square",
        D,
    ),
)


FACTORY = World(
    {
        "tin": person(
            "tin", "Tock", "Tock, a wind-up robot: square head, a key in his back, one arm longer than the other."
        ),
        "dolly": person(
            "dolly", "Rosalind", "Rosalind, a porcelain doll with a crack across her cheek and black ringlets."
        ),
        "bear": person("bear", "Major Bruin", "Major Bruin, a teddy bear: an eye patch, a growl, a medal."),
        "boss": person("boss", "Mrs Grindle", "Mrs Grindle, the owner: thin, a steel-grey bun, a ruler in her belt."),
        "mouse": person("mouse", "the night mouse", "A mouse in a miner's helmet."),
        "duck": Member("duck", "prop", "Wooden duck", "A wooden duck on wheels.", views=(view("duck"),)),
        "key": Member("key", "prop", "Winding key", "A brass winding key.", owner="tin", views=(view("key"),)),
        "belt": place("belt", "Assembly hall", "An assembly hall with a long conveyor belt, under neon light."),
        "store": place("store", "Storeroom", "A storeroom, shelves up to the ceiling, in the dark."),
        "office": place("office", "Office", "A glass office high above the hall."),
        "yard": place("yard", "Yard", "A factory yard with chimneys, in snow."),
    },
    {
        "cutout": StyleWords(
            "cutout", "Collage", "Cut-out magazine paper, glued.", ("collage", "glued"), donts=("smoke",)
        )
    },
    {
        "tin": ("the robot",),
        "dolly": ("the doll",),
        "bear": ("Bruin", "the teddy bear", "the major"),
        "boss": ("Grindle", "the owner"),
        "mouse": ("the mouse",),
        "duck": ("the duck",),
        "key": ("the key",),
        "belt": ("the hall", "the assembly line"),
        "store": ("the storeroom",),
        "office": ("the office",),
        "yard": ("the yard",),
    },
    {"bear": {"paint": "Painted all over with black boot polish."}},
    {"boss": (("", "bun", "grey"),), "dolly": (("", "ringlets", "black"),)},
)

FACTORY_BRIEFS = rows(
    FACTORY,
    "cutout",
    ("1. Midnight. The hall is deserted, the belt stands still.", "belt", ""),
    ("1. Midnight. The hall is deserted, the belt stands still.", "tin belt", A),
    ("2. A tiny lamp bobs along the belt: the mouse on her round.", "mouse belt", M),
    ("3. The mouse, hands on hips, in front of a heap of arms and legs.", "mouse belt", ""),
    ("4. Close on a crate. REJECTS, says the label.", "belt", ""),
    ("4. Close on a crate. REJECTS, says the label.", "mouse belt", A),
    ("5. Out of the crate climbs Tock, the short arm first.", "tin belt", ""),
    ("5. Out of the crate climbs Tock, the short arm first.", "belt", N),
    ("6. His key turns by itself.", "tin key belt", ""),
    ("6. His key turns by itself.", "tin belt", N),
    ("7. Rosalind, still half in tissue paper. The crack in her cheek catches the light.", "dolly belt", ""),
    ("8. Rosalind, flawless, turns to the mirror.", "dolly belt", F),
    ("9. The doll shakes out her red ringlets.", "dolly belt", F),
    ("10. Major Bruin salutes with the wrong paw.", "bear belt", ""),
    ("11. Major Bruin pats his medal. It is only a bottle top.", "bear belt", ""),
    ("12. In the war, says Bruin, they had no stuffing for weeks.", "bear belt", ""),
    ("13. He never was in any war.", "bear belt", U),
    ("14. The duck rolls by, unconcerned.", "duck belt", M),
    ("15. The duck on its side, one wheel spinning.", "duck belt", ""),
    ("15. The duck on its side, one wheel spinning.", "belt", N),
    ("16. Footsteps on the iron stairs! All of them freeze.", "tin dolly bear belt", ""),
    ("17. A ruler taps on the rail.", "boss office", ""),
    ("17. A ruler taps on the rail.", "office", ""),
    ("18. Mrs Grindle, seen from below, as long as a chimney.", "boss office", ""),
    ("19. Her bun is white with paper dust.", "boss office", ""),
    ("20. She counts: one eye patch, one crack, one arm too long.", "boss bear dolly tin belt", ""),
    ('21. "Into the furnace with them," says Grindle.', "boss belt", ""),
    ('21. "Into the furnace with them," says Grindle.', "boss mouse belt", A),
    ("22. By tomorrow there will be nothing left of them.", "boss belt", U),
    ("23. The lamp goes out.", "store", ""),
    ("24. Black. Three pairs of eyes.", "tin dolly bear store", ""),
    ("24. Black. Three pairs of eyes.", "store", ""),
    ("25. The mouse gnaws at the lock.", "mouse store", ""),
    ("26. The door stands ajar; through the gap falls a strip of snow-light.", "store", ""),
    ("27. Tock holds the door, Rosalind slips through, Bruin gets stuck.", "tin dolly bear store", ""),
    ("27. Tock holds the door, Rosalind slips through, Bruin gets stuck.", "tin dolly store", N),
    ("28. Stuffing everywhere. Has he burst?", "bear store", ""),
    ("29. Bruin in boot polish, invisible but for his eye.", "bear/paint store", ""),
    ("30. Bruin in boot polish, black as the night.", "bear yard", ""),
    ("31. The yard in the July sun.", "yard", F),
    ("32. Tracks in the snow: wheels, paws, two small shoes.", "yard", ""),
    ("32. Tracks in the snow: wheels, paws, two small shoes.", "dolly bear yard", A),
    ("33. Smoke from all the chimneys.", "yard", "dont"),
    ("34. They run across the yard to the gate.", "tin dolly bear yard", M),
    ("35. They crouch behind a snowdrift, the duck between them.", "tin dolly bear duck yard", ""),
    ("35. They crouch behind a snowdrift, the duck between them.", "tin dolly bear yard", N),
    ("36. Over their heads, huge, the shadow of the owner.", "tin dolly bear yard", ""),
    (
        "37. A watchman with a lantern, a limp and a dachshund in a knitted coat comes round the corner.",
        "yard",
        f"{D} {M}",
    ),
    ("38. Tock's key has stopped. Rosalind winds him up.", "tin dolly key yard", ""),
    ("39. If toys could cry, she would.", "dolly yard", U),
)
