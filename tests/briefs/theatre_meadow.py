"""A hundred briefs with hand-made truth, in a thirteenth and a fourteenth world, each written when those before it had taught (docs/briefs.md has the first rates)."""

from __future__ import annotations

from juxtaform.core.brief.compose import Member, StyleWords
from tests.briefs.world import A, D, F, M, N, T, U, World, person, place, rows, view

THEATRE = World(
    {
        "lou": person("lou", "Lou", "Lou, a stagehand of fourteen: a shaved head, a black boiler suit, a tool belt."),
        "ines": person(
            "ines", "Ines Vidal", "Ines Vidal, a singer of fifty: auburn curls, a violet gown, pearl earrings."
        ),
        "ghost": person(
            "ghost", "The prompter", "The prompter, a ghost in a box: see-through, a frilled cuff, ink on his fingers."
        ),
        "cat": person("cat", "Soot", "Soot, a black cat with a white bib."),
        "director": person(
            "director", "Mr Quist", "Mr Quist, the director: a long scarf, round, bald, always chewing."
        ),
        "rope": Member(
            "rope", "prop", "Curtain rope", "A thick red curtain rope with a tassel.", views=(view("rope"),)
        ),
        "script": Member(
            "script", "prop", "Script", "A thumbed script with coffee rings.", owner="director", views=(view("script"),)
        ),
        "stage": place("stage", "Stage", "A bare stage with one work light."),
        "trap": place("trap", "Under the stage", "The dark space under the stage, beams and cobwebs."),
        "dressing": place(
            "dressing", "Dressing room", "A dressing room with a mirror ringed by bulbs, in the evening."
        ),
        "street": place("street", "Back street", "The back street with the stage door, in snow, at night."),
    },
    {
        "inkwash": StyleWords(
            "inkwash", "Ink and wash", "Black ink with grey wash.", ("ink", "wash"), donts=("speech bubbles",)
        )
    },
    {
        "ines": ("Ines", "the singer"),
        "ghost": ("the ghost",),
        "cat": ("the cat",),
        "director": ("Quist", "the director"),
        "rope": ("the rope",),
        "script": ("the script",),
        "stage": ("the stage",),
        "dressing": ("the dressing room",),
        "street": ("the street",),
    },
    {"ines": {"queen": "A queen's costume: a gold crown, a white fur cape."}},
    {"ines": (("", "gown", "violet"), ("", "curls", "brown"))},
)

THEATRE_BRIEFS = rows(
    THEATRE,
    "inkwash",
    ("Lou, flat on her stomach, looks down through the gap in the boards.", "lou stage", ""),
    ("A thin hand with ink on its fingers turns a page.", "ghost trap", ""),
    ("Ines powders her nose. Soot sits on her gown.", "ines cat dressing", ""),
    ("Ines powders her nose. Soot sits on her gown.", "ines dressing", N),
    ("Soot between the bulbs of the mirror, tail over the edge.", "cat dressing", ""),
    ("Ines as the queen, her crown crooked.", "ines/queen stage", ""),
    ("Ines as the queen, her crown crooked.", "ines stage", F),
    ("Ines in a yellow gown bows to the empty seats.", "ines stage", F),
    ("Mr Quist throws the script at the wall; pages everywhere.", "director script stage", ""),
    ("Mr Quist throws the script at the wall; pages everywhere.", "director stage", N),
    ("Mr Quist is never satisfied.", "director stage", U),
    ("Rehearsals begin at nine and end at midnight.", "stage", U),
    ("Lou knows every nail in this floor.", "lou stage", U),
    ("Lou hammers a nail into the floor, three more between her lips.", "lou stage", ""),
    ("The prompter whispers the missing line; Ines cocks her head.", "ghost ines stage", ""),
    ("The prompter whispers the missing line; Ines cocks her head.", "ines stage", N),
    ("Nobody but Lou can see the ghost.", "lou stage", U),
    ("Through the ghost you can see the beams.", "ghost trap", ""),
    ("Lou reaches out; her hand goes right through his cuff.", "lou ghost trap", ""),
    ("Lou scrambles up the ladder to the stage.", "lou trap", M),
    ("Lou on the ladder, halfway into the light.", "lou trap", ""),
    ("The singer sweeps past Lou without a glance.", "ines lou stage", M),
    ("In the corridor the singer's scent hangs long after she has gone.", "dressing", U),
    ("A bunch of wilted roses lies before the stage door.", "street", ""),
    ("Footprints of a cat in the snow.", "street", ""),
    ("The street on a hot afternoon.", "street", F),
    ("Mr Quist, snow on his bald head, hammers at the door with both fists.", "director street", ""),
    ("Mr Quist, his red beard full of snow, waits at the stage door.", "director street", ""),
    ("A cab draws up. Ines gets in. It drives off.", "ines street", f"{M} {T}"),
    ("The cab's tail lights at the end of the street.", "street", ""),
    ("Lou pulls the rope with all her weight.", "lou rope stage", ""),
    ("Lou pulls the rope with all her weight.", "lou stage", N),
    ("The curtain rises.", "stage", ""),
    ("Slowly the curtain rises.", "stage", M),
    ("Row upon row of faces.", "stage", ""),
    ("A critic with a monocle, a notebook and a very small pencil sits in the first row.", "stage", D),
    ("The audience holds its breath.", "stage", ""),
    ("Ines opens her mouth and nothing comes out.", "ines stage", ""),
    ("What if she has forgotten everything?", "ines stage", U),
    ("Under the boards the ghost flips frantically through his pages.", "ghost trap", ""),
    ("Under the boards the ghost flips frantically through his pages.", "ghost stage", ""),
    ("The cat brings him the right page in its teeth.", "cat ghost trap", ""),
    ("The right page, two wet tooth marks in it.", "trap", ""),
    ("Ines's earrings glitter in the spotlight.", "ines stage", ""),
    ("An earring rolls under the piano.", "stage", M),
    ("Applause.", "stage", ""),
    ("Lou takes off her tool belt and lays it on the boards.", "lou stage", ""),
    ("Lou without her tool belt, in the spotlight.", "lou stage", F),
    ("Since that night a seat in the third row has stayed empty.", "stage", U),
    ("The work light burns above the empty stage.", "stage", ""),
)

MEADOW = World(
    {
        "mole": person("mole", "Basil", "Basil, a mole with thick glasses and a red waistcoat."),
        "hare": person(
            "hare", "Juniper", "Juniper, a hare: long legs, a blue ribbon round one ear.", ("a blue ribbon",)
        ),
        "owl": person("owl", "Old Tansy", "Old Tansy, a barn owl with a wooden leg."),
        "snail": person("snail", "Dot", "Dot, a snail with a cracked yellow shell."),
        "kids": person("kids", "The shrews", "The shrews, seven tiny brothers in green caps."),
        "kite": Member(
            "kite", "prop", "Kite", "A paper kite with a face and a long tail of bows.", views=(view("kite"),)
        ),
        "spade": Member("spade", "prop", "Spade", "A spade made of a spoon.", owner="mole", views=(view("spade"),)),
        "field": place("field", "Wheat field", "A wheat field, tall as a forest, at noon."),
        "burrow": place("burrow", "Burrow", "A round burrow with shelves in the earth, by lamplight."),
        "barn": place("barn", "Barn", "An old barn with a hole in its roof, at night."),
        "brook": place("brook", "Brook", "A brook with stepping stones, in rain."),
    },
    {
        "pencil": StyleWords(
            "pencil", "Coloured pencil", "Soft coloured pencil on cream paper.", ("pencil", "soft"), donts=("people",)
        )
    },
    {
        "mole": ("the mole",),
        "hare": ("the hare",),
        "owl": ("Tansy", "the owl"),
        "snail": ("the snail",),
        "kids": ("the brothers",),
        "kite": ("the kite",),
        "spade": ("the spade",),
        "field": ("the field", "the wheat"),
        "burrow": ("the burrow",),
        "barn": ("the barn",),
        "brook": ("the brook",),
    },
    {"mole": {"night-cap": "A white night-cap and a night-shirt."}},
    {"mole": (("", "waistcoat", "red"),), "snail": (("", "shell", "yellow"),)},
)

MEADOW_BRIEFS = rows(
    MEADOW,
    "pencil",
    ("A small hill of earth in the middle of the field, two glasses on top.", "mole field", ""),
    ("Basil wipes his glasses on the hem of his waistcoat.", "mole burrow", ""),
    ("Juniper leaps over Dot.", "hare snail field", ""),
    ("Juniper leaps over Dot.", "hare field", N),
    ("Juniper bounds along the furrow.", "hare field", M),
    ("Dot has been on her way since breakfast.", "snail field", U),
    ("Dot's trail glitters on the stones.", "brook", ""),
    ("Dot clings to a wheat stalk, swaying.", "snail field", ""),
    ("Dot with her brown shell in the shade of a leaf.", "snail field", F),
    ("Old Tansy sleeps on a beam, her wooden leg stretched out.", "owl barn", ""),
    ("One eye of the owl opens.", "owl barn", ""),
    ("Everybody knows that owls eat shrews.", "barn", U),
    ("Seven green caps in a row on the window sill.", "kids barn", ""),
    ("Six brothers whisper; the seventh has fallen asleep.", "kids barn", ""),
    ("The shrews hoist the kite through the hole in the roof.", "kids kite barn", ""),
    ("The shrews hoist the kite through the hole in the roof.", "kids barn", N),
    ("The kite grins down at the field.", "kite field", ""),
    ("Wind tears at the bows.", "kite field", ""),
    ("The kite carries the smallest shrew across the brook.", "kite kids brook", M),
    ("The smallest shrew dangles from the tail of the kite.", "kite kids field", ""),
    ("Basil digs, sniffs the earth and digs on.", "mole spade field", ""),
    ("Basil leans on his spade.", "mole spade field", ""),
    ("Basil leans on his spade.", "mole field", N),
    ("Basil has lost his spade.", "mole spade field", ""),
    ("In his night-cap Basil shuffles to the door.", "mole/night-cap burrow", M),
    ("In his night-cap Basil holds up the lamp.", "mole burrow", F),
    ("It knocks. Basil pulls the blanket over his head.", "mole burrow", ""),
    ("Juniper's ribbon hangs on a thorn.", "field", ""),
    ("Juniper's ribbon hangs on a thorn.", "hare field", A),
    ("Juniper without her ribbon, out of breath.", "hare field", F),
    ("Rain drums on the burdock leaf; under it four of them squeeze together.", "mole hare snail owl brook", ""),
    ("The brook in bright sunlight.", "brook", F),
    ("The brook roars.", "brook", ""),
    ("A stone, a stone, a snail, a stone.", "snail brook", ""),
    ("Juniper hops from stone to stone across the brook.", "hare brook", M),
    ("Juniper in mid-air between two stones, her ears flat.", "hare brook", ""),
    ("Tansy glides silently over the wheat.", "owl field", M),
    ("The shadow of an owl falls on seven green caps.", "kids field", ""),
    ("“Run!” squeaks the smallest.", "kids field", ""),
    ("Tansy lifts her leg, unscrews it and pours out a handful of nuts.", "owl barn", T),
    ("The wooden leg, full of hazelnuts.", "barn", ""),
    ("They were never in danger.", "kids owl barn", U),
    ("Basil counts the caps: six.", "mole kids barn", ""),
    ("At noon the field is as hot as an oven.", "field", ""),
    ("The field under the stars.", "field", F),
    ("Dot arrives at last; the others are snoring.", "snail mole hare barn", ""),
    ("Dot arrives at last; the others are snoring.", "snail barn", ""),
    ("How far a snail can see from a beam!", "snail barn", ""),
    ("Autumn will come soon.", "field", U),
    ("Stubble, a lost bow, a first leaf.", "field", ""),
)
