"""A hundred briefs with hand-made truth, in a world told as shots of a film and one told as panels of a comic, written when the twenty before had taught
(docs/briefs.md has the first rates)."""

from __future__ import annotations

from juxtaform.core.brief.compose import Member, StyleWords
from tests.briefs.world import A, D, F, L, M, N, T, U, World, person, place, rows, view

CITY = World(
    {
        "vera": person(
            "vera", "Vera", "Vera, a courier of twenty: short black hair, a red leather jacket, a bicycle helmet."
        ),
        "doc": person(
            "doc", "Doctor Amsel", "Doctor Amsel, a thin woman of sixty: white lab coat, a silver bun, a limp."
        ),
        "dog": person("dog", "Fuse", "Fuse, a three-legged terrier with a patch over one eye.", ("a patch",)),
        "agent": person("agent", "Agent Moll", "Agent Moll, a broad man: a beige trench coat, a toothpick, no neck."),
        "parcel": Member(
            "parcel", "prop", "Parcel", "A small parcel in brown paper that hums.", views=(view("parcel"),)
        ),
        "bike": Member(
            "bike", "prop", "Bicycle", "A yellow bicycle with a crate.", owner="vera", views=(view("bike"),)
        ),
        "street": place("street", "Neon street", "A wet street of neon signs, at night."),
        "lab": place("lab", "Laboratory", "A cluttered laboratory under a glass roof, by day."),
        "bridge": place("bridge", "Iron bridge", "An iron bridge over a black river, in fog."),
        "stair": place("stair", "Stairwell", "A spiral stairwell seen from below."),
    },
    {
        "noir": StyleWords(
            "noir", "Night gouache", "Dark gouache with hard edges.", ("gouache", "hard-edged"), donts=("subtitles",)
        )
    },
    {
        "doc": ("Amsel", "the doctor"),
        "dog": ("the dog", "the terrier"),
        "agent": ("Moll", "the agent"),
        "parcel": ("the parcel",),
        "bike": ("the bicycle", "the bike"),
        "street": ("the street",),
        "lab": ("the laboratory", "the lab"),
        "bridge": ("the bridge",),
        "stair": ("the stairwell", "the stairs"),
    },
    {"vera": {"disguise": "A grey cleaner's smock and a blond wig."}},
    {"vera": (("", "jacket", "red"), ("", "hair", "black")), "agent": (("", "coat", "brown"),)},
)

FILM = rows(
    CITY,
    "noir",
    ("Wide: the neon street in the rain, Vera a small red dot on her bike.", "vera bike street", ""),
    ("Close on Vera's hand: it tightens round the parcel.", "vera parcel street", ""),
    ("Close on Vera's hand: it tightens round the parcel.", "parcel street", N),
    ("Over Moll's shoulder: Vera at the traffic light.", "agent vera street", ""),
    ("Over Moll's shoulder: Vera at the traffic light.", "vera street", N),
    ("Insert: the label of the parcel, an address in smudged ink.", "parcel street", ""),
    ("Vera looks off to the left, alarmed.", "vera street", ""),
    ("What she sees: Fuse in the headlights.", "dog street", ""),
    ("What she sees: Fuse in the headlights.", "vera dog street", ""),
    ("Reverse: the headlights, two white discs.", "street", ""),
    ("Vera brakes; the back wheel lifts off the ground.", "vera bike street", ""),
    ("The bicycle lies on its side, one wheel spinning.", "bike street", ""),
    ("The camera tilts up from the wheel to Vera's face.", "vera street", M),
    ("We follow Vera up the stairs.", "vera stair", M),
    ("Looking down the stairwell: a beige hat far below.", "stair", ""),
    ("Agent Moll takes the stairs two at a time.", "agent stair", ""),
    ("Agent Moll takes the stairs two at a time.", "agent vera stair", A),
    ("Slow zoom on the humming parcel.", "parcel lab", M),
    ("Doctor Amsel opens the door a crack, one eye visible.", "doc lab", ""),
    ("The doctor, lit from below by her burner.", "doc lab", ""),
    ("The doctor in a green lab coat.", "doc lab", F),
    ("Two-shot: Vera and the doctor bend over the parcel.", "vera doc parcel lab", ""),
    ("Two-shot: Vera and the doctor bend over the parcel.", "vera parcel lab", N),
    ("Amsel's face falls.", "doc lab", ""),
    ("She has waited for this for half her life.", "doc lab", U),
    ("The lab at night.", "lab", F),
    ("Fuse growls at the door.", "dog lab", ""),
    ("Through the frosted glass a broad shadow without a neck.", "agent lab", ""),
    ("Moll shoulders the door open; glass flies.", "agent lab", ""),
    ("Fuse sinks his teeth into the beige coat.", "dog agent lab", ""),
    ("Vera, in her disguise, mops the floor with her back to him.", "vera/disguise agent stair", ""),
    ("Vera, in her disguise, mops the floor with her back to him.", "vera agent stair", F),
    ("Vera's blond wig slips.", "vera/disguise stair", ""),
    ("Vera's blond hair blows in the wind.", "vera bridge", F),
    ("Cut to the bridge, fog, nobody.", "bridge", M),
    ("The bridge. Fog. A bicycle bell.", "bridge", ""),
    ("The bridge in the bright morning sun.", "bridge", F),
    ("Vera pedals out of the fog straight at us.", "vera bike bridge", M),
    ("Silhouettes on the bridge: a woman, a three-legged dog.", "vera dog bridge", ""),
    ("A nun with a cigar and a ladder under her arm crosses behind them.", "vera dog bridge", D),
    ("Moll could still catch them.", "agent vera dog bridge", U),
    ("Moll reaches out; his fingertips brush the crate.", "agent bike bridge", ""),
    ("Vera tears off the paper, shuts her eyes and throws.", "vera bridge", T),
    ("A bright point in the sky over the river.", "bridge", ""),
    ("Hold on the empty sky.", "bridge", ""),
    ("Moll without his toothpick, his mouth open.", "agent bridge", F),
    ("The patch has slipped: under it a perfectly good eye.", "dog bridge", ""),
    ("Black. Only the hum.", "bridge", ""),
    ("What happens next nobody knows.", "bridge", U),
    ("Fuse, isolated on white, three views.", "dog bridge", L),
)

GARDEN = World(
    {
        "pip": person("pip", "Zsa Zsa", "Zsa Zsa, a ladybird with long lashes and seven spots."),
        "ant": person("ant", "Sergeant Krill", "Sergeant Krill, an ant: a tiny helmet, a straw for a spear."),
        "worm": person("worm", "Lord Loam", "Lord Loam, an earthworm with a monocle and a bow tie."),
        "bees": person("bees", "The drones", "The drones, five fat bees in aviator goggles."),
        "boy": person("boy", "The giant", "The giant, a human boy: only his sandals and hands, dirty nails."),
        "can": Member("can", "prop", "Watering can", "A huge green watering can.", owner="boy", views=(view("can"),)),
        "crumb": Member("crumb", "prop", "Crumb", "A crumb of cake as large as an ant.", views=(view("crumb"),)),
        "patch": place("patch", "Lettuce patch", "Lettuce seen from below, like green sails, in the morning."),
        "nest": place("nest", "Ant nest", "Halls and shafts of an ant nest, lit by glow-mushrooms."),
        "leaf": place("leaf", "Lily leaf", "A lily leaf on a pond, at noon."),
        "wall": place("wall", "Garden wall", "A sunny brick wall with cracks."),
    },
    {
        "ligne": StyleWords(
            "ligne", "Clear line", "Even ink lines and flat colour.", ("ink", "flat"), donts=("photographs",)
        )
    },
    {
        "ant": ("Krill", "the sergeant", "the ant"),
        "worm": ("Loam", "the worm"),
        "pip": ("the ladybird",),
        "bees": ("the bees",),
        "boy": ("the giant", "the boy"),
        "can": ("the can",),
        "crumb": ("the crumb",),
        "patch": ("the lettuce",),
        "nest": ("the nest",),
        "leaf": ("the leaf",),
        "wall": ("the wall",),
    },
    {"pip": {"raincoat": "A see-through raincoat made of a wing."}},
    {},
)

COMIC = rows(
    GARDEN,
    "ligne",
    ("Panel 1: Zsa Zsa admires herself in a dewdrop.", "pip patch", ""),
    ("Splash: the giant's sandal fills the sky.", "boy patch", ""),
    ("Splash: the giant's sandal fills the sky.", "patch", N),
    ("Krill blows his whistle. Ants everywhere.", "ant patch", ""),
    ("Krill points his straw at the sandal.", "ant boy patch", ""),
    ("Lord Loam sticks his head out of the earth and adjusts his monocle.", "worm patch", ""),
    ("Lord Loam sticks his head out of the earth and adjusts his monocle.", "worm pip patch", A),
    ("Lord Loam without his bow tie.", "worm patch", F),
    ("“My dear lady, run!” says Loam.", "worm pip patch", A),
    ("“Run, Zsa Zsa!” says Loam.", "worm patch", ""),
    ("Zsa Zsa scuttles under a leaf.", "pip patch", M),
    ("Zsa Zsa under a lettuce leaf, only her lashes visible.", "pip patch", ""),
    ("A drop as big as a house bursts on the ground.", "patch", ""),
    ("The watering can from below, holes like black suns.", "can patch", ""),
    ("The giant tips the can.", "boy can patch", ""),
    ("The giant tips the can.", "boy patch", N),
    ("Rain in sunshine: a rainbow between the lettuces.", "patch", ""),
    ("Zsa Zsa in her raincoat steps over a puddle.", "pip/raincoat patch", ""),
    ("Zsa Zsa in her raincoat steps over a puddle.", "pip patch", F),
    ("Zsa Zsa with three spots.", "pip patch", ""),
    ("Five goggles flash in the sun.", "bees wall", ""),
    ("The drones fly in formation over the wall.", "bees wall", M),
    ("The drones in formation, seen from below, the wall a red strip.", "bees wall", ""),
    ("The last drone has lost his goggles.", "bees wall", ""),
    ("The bees think that the can is a cloud.", "bees wall", U),
    ("One bee, upside down in a bell flower.", "bees wall", ""),
    ("Krill and the crumb, the crumb on top.", "ant crumb nest", ""),
    ("Krill and the crumb, the crumb on top.", "ant nest", N),
    ("Krill rolls the crumb down the main shaft.", "ant crumb nest", M),
    ("Ants always share.", "nest", U),
    ("A hundred ants lick one crumb.", "crumb nest", ""),
    ("In the nest it is always midnight.", "nest", U),
    ("Water breaks into the nest.", "nest", ""),
    ("Krill holds on to a root with all six legs.", "ant nest", ""),
    ("Krill's helmet floats past.", "nest", ""),
    ("The queen must be saved.", "nest", U),
    ("Lord Loam plugs the hole with his own body.", "worm nest", ""),
    ("Lord Loam plugs the hole with his own body.", "nest", N),
    ("Everybody cheers; the worm turns pink.", "ant worm nest", ""),
    ("On the lily leaf Zsa Zsa dries her wings.", "pip leaf", ""),
    ("On the lily leaf Zsa Zsa dries her wings.", "pip wall", F),
    ("The leaf under a crescent moon.", "leaf", F),
    ("A frog in a dressing gown with a pipe and a newspaper surfaces beside the leaf.", "leaf", D),
    ("The frog opens its mouth, rolls out its tongue and snaps.", "leaf", T),
    ("A tongue like a red carpet.", "leaf", ""),
    ("Zsa Zsa would never trust a frog.", "pip leaf", U),
    ("Zsa Zsa, wings spread, between tongue and teeth.", "pip leaf", ""),
    ("Dirty nails pick up the frog by one leg.", "boy leaf", ""),
    ("Dirty nails pick up the frog by one leg.", "leaf", ""),
    ("The end: seven spots on a red dot in the blue.", "pip leaf", ""),
)
