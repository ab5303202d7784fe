"""Nine more made-up texts, broken down by hand: what the breakdown does on a stranger's text.

No weight was set on them; gaps in grammar and word lists that they showed were mended afterwards (docs/measures.md has the first rates).
"""

from __future__ import annotations

from tests.story_texts import Told

FABLE = Told(
    "fable",
    "prose",
    (
        ("A heron and a hedgehog shared one pond, though neither had asked the other.", "heron, hedgehog", "pond"),
        ("\n\nThe heron stood in it all day long and called it hers.", "heron", ""),
        ("The hedgehog drank from it at night and called it his.", "hedgehog", ""),
        ("\n\nOne summer the pond grew small. The heron's feet were dry.", "heron", "pond"),
        ("\n\n“You have been drinking my pond,” said the heron.", "heron", ""),
        (
            "\n\n“You have been standing on my water,” the hedgehog answered, and all his spines went up.",
            "hedgehog",
            "",
        ),
        ("\n\nAn old carp put its head out of the last puddle.", "carp", "puddle"),
        ("“Might I say something,” it asked, “while there is still something to say it in?”", "carp", ""),
        (
            "\n\nSo the heron carried stones to the stream, and the hedgehog dug, and on the third evening the water came.",
            "heron, hedgehog",
            "stream",
        ),
        ("\n\nThe carp called it hers, and nobody argued.", "carp", ""),
    ),
)

DIARY = Told(
    "first person",
    "prose",
    (
        ("I was nine when my brother Felix built the submarine in our bathtub.", "I, Felix", "bathtub"),
        ("He used two buckets, a bicycle pump and my good raincoat.", "Felix", "bathtub"),
        ("\n\n“Captain’s hat,” he said, and put a colander on my head.", "Felix, I", ""),
        ("\n\nMother knocked on the door. “What are you two doing in there?”", "Mother", "door"),
        ("\n\n“Washing,” we said.", "Felix, I", ""),
        ("\n\nThen Felix pulled the plug, and the whole bathroom began to sink.", "Felix", "bathroom"),
        ("I held on to the towel rail. Soap swam past my nose like a slow white fish.", "I", ""),
        ("\n\nAt the bottom it was green and quiet.", "", ""),
        ("A lobster looked in through the keyhole and saluted.", "lobster", ""),
        (
            "\n\nWhen Mother opened the door at last, there were two wet children on the mat and not one drop of water in the tub.",
            "Mother, Felix, I",
            "tub",
        ),
    ),
)

QUIET = Told(
    "quiet description",
    "prose",
    (
        ("# Winter\n\nSnow lay on the orchard wall and on the hat of the scarecrow.", "scarecrow", "orchard"),
        ("Nothing moved except the smoke above the farmhouse.", "", "farmhouse"),
        ("\n\nIn the stable Bettine brushed the grey mare and counted the strokes.", "Bettine, mare", "stable"),
        ("Her breath and the mare's breath made one cloud.", "Bettine, mare", ""),
        ("\n\nShe had promised to sell the mare before spring.", "Bettine", ""),
        ("\n\n# Spring\n\nThe ice on the canal broke with a sound like a plate.", "", "canal"),
        ("A man in a yellow waistcoat came over the bridge with a halter in his hand.", "man", "bridge"),
        ("\n\nBettine led the mare out into the yard. The man walked round her twice.", "Bettine, mare, man", "yard"),
        ("\n\n“She is not for sale,” Bettine heard herself say.", "Bettine", ""),
        ("\n\nThe man laughed, hung the halter on the gate, and went away whistling.", "man", "gate"),
    ),
)

FARCE = Told(
    "groups and plurals",
    "prose",
    (
        ("The seven sisters Plum lived in one lighthouse and owned one umbrella.", "sisters", "lighthouse"),
        ("\n\nOn Mondays the eldest, Ottoline, took it to the market.", "Ottoline", "market"),
        ("On Tuesdays it rained, and the sisters fought over it on the stairs.", "sisters", "stairs"),
        ("\n\nThe postman, Mr. Quill, had seen them fight so often that he brought plasters.", "Mr. Quill", ""),
        ("\n\n“Ladies,” he said one Tuesday, and he opened his big leather bag, “may I?”", "Mr. Quill", ""),
        ("\n\nOut of the bag came six umbrellas, all of them yellow.", "", ""),
        ("The sisters stared. Ottoline sat down on the bottom step.", "sisters, Ottoline", "step"),
        ("\n\n“But what shall we do on Tuesdays now?” asked Pim, who was the smallest.", "Pim", ""),
        ("\n\nThat afternoon seven yellow umbrellas went along the beach in a row.", "sisters", "beach"),
        (
            "Behind them walked Mr. Quill, quite wet, because he had forgotten to keep one.",
            "Mr. Quill, sisters",
            "beach",
        ),
    ),
)

TREATMENT = Told(
    "present tense",
    "prose",
    (
        (
            "## Rooftop\n\nA clockwork pigeon winds itself up with its own beak and hops to the edge of the rooftop.",
            "pigeon",
            "rooftop",
        ),
        ("Below, the city ticks.", "", "rooftop, city"),
        ("\n\nThe pigeon jumps. It drops like a spanner.", "pigeon", "rooftop"),
        (
            "\n\n## Workshop\n\nInside the workshop Hanneke, a girl with oil on her nose, hears the clang.",
            "Hanneke",
            "workshop",
        ),
        ("She pushes up her goggles and looks out of the window.", "Hanneke", "workshop, window"),
        (
            "\n\nThe pigeon lies in the gutter with one wing bent. A spring sticks out of its chest.",
            "pigeon",
            "workshop, gutter",
        ),
        ("\n\nHanneke carries it to the bench in both hands.", "Hanneke, pigeon", "workshop"),
        ("She opens a drawer full of feathers.", "Hanneke", "workshop"),
        ("\n\nLater the pigeon tries its new wings: one of brass, one of real feathers.", "pigeon", "workshop"),
        ("Hanneke holds her breath and opens the window.", "Hanneke", "workshop, window"),
        (
            "\n\n## Rooftop\n\nAt dawn the pigeon flies once around the chimney, badly, and everybody in the street looks up.",
            "pigeon",
            "rooftop, street",
        ),
    ),
)

SHORT_SCRIPT = Told(
    "second script",
    "fountain",
    (
        ("INT. GREENHOUSE - DAY\n\nA small robot gardener, MOSS, waters a row of empty pots.", "Moss", "greenhouse"),
        ("\n\nAn old woman, PROFESSOR ADLER, sleeps in a wicker chair.", "Professor Adler", "greenhouse"),
        ("\n\nMOSS\nNothing again.", "Moss", "greenhouse"),
        ("\n\nPROFESSOR ADLER\n(eyes closed)\nPatience is also a tool, Moss.", "Professor Adler", "greenhouse"),
        ("\n\nMoss puts the can down and looks at the broken pane in the roof.", "Moss", "greenhouse"),
        (
            "\n\nEXT. GREENHOUSE ROOF - NIGHT\n\nMoss climbs the ladder with a sheet of glass on its back. Stars.",
            "Moss",
            "greenhouse roof",
        ),
        ("\n\nThe glass slips. It shatters on the path far below.", "", "greenhouse roof, path"),
        (
            "\n\nINT. GREENHOUSE - MORNING\n\nProfessor Adler stands among the splinters. In every pot there is a green shoot.",
            "Professor Adler",
            "greenhouse",
        ),
        ("\n\nPROFESSOR ADLER\nMoss! Come and look.", "Professor Adler", "greenhouse"),
        ("\n\nMoss rolls in with a broom. It stops and drops the broom.", "Moss", "greenhouse"),
    ),
)

MARKET = Told(
    "market day",
    "prose",
    (
        ("Old Fenn sold songs from a cart with three wheels.", "Old Fenn", "cart"),
        (
            "On market days he pushed it up the hill to the town square, and people paid him in apples.",
            "Old Fenn",
            "hill, town square",
        ),
        (
            "\n\nOne morning a girl with a broken kite stopped in front of him. “Do you mend things?” she asked.",
            "girl, Old Fenn",
            "",
        ),
        ("\n\n“I mend Mondays,” said Fenn. “Kites are harder.”", "Old Fenn", ""),
        (
            "\n\nHe sang to the kite all the same. A magpie on the chemist's roof put its head on one side.",
            "Old Fenn, magpie",
            "roof",
        ),
        ("\n\nSlowly the kite lifted its tail.", "", ""),
        ("The girl laughed and ran with it down to the river.", "girl", "river"),
        ("\n\nFenn counted his apples. There was one too many, and it was warm.", "Old Fenn", ""),
        ("\n\nThat night, in the shed behind the mill, the cart hummed until the moon came in.", "", "shed, mill"),
    ),
)

CHASE = Told(
    "chase",
    "prose",
    (
        (
            "## The museum\n\nThe glass case was empty. Inspector Balthazar Wool looked at it for a long time.",
            "Inspector Balthazar Wool",
            "museum",
        ),
        ("“Stolen,” said the guard.\n\n“Or gone for a walk,” said Wool.", "guard, Inspector Balthazar Wool", "museum"),
        (
            "\n\nSomething small and golden ran across the hall behind them.",
            "guard, Inspector Balthazar Wool",
            "museum, hall",
        ),
        ("\n\nWool spun round. His hat fell off.", "Inspector Balthazar Wool", "museum"),
        (
            "\n\n## The street\n\nThe golden frog hopped between the tram wheels, over a puddle and into the fish shop.",
            "frog",
            "street, fish shop",
        ),
        ("Wool came after it on one skate.", "Inspector Balthazar Wool, frog", "street"),
        ("\n\n“Stop that amphibian!” he cried.", "Inspector Balthazar Wool", "street"),
        ("\n\nNobody stopped it. The fishmonger, Mrs. Tarn, held the door open.", "Mrs. Tarn", "street"),
        (
            "\n\n## The harbour\n\nAt the end of the pier the frog sat down and waited. The sea was very flat.",
            "frog",
            "harbour, pier",
        ),
        ("Wool sat down beside it, out of breath.", "Inspector Balthazar Wool, frog", "harbour"),
        ("\n\n“You only wanted to see it,” he said.", "Inspector Balthazar Wool", "harbour"),
    ),
)

LULLABY = Told(
    "bedtime",
    "prose",
    (
        ("Juno could not sleep, because the moon was too loud.", "Juno", ""),
        (
            "“It is humming,” she told her father.\n\nHer father listened. He was a careful listener.",
            "Juno, father",
            "",
        ),
        ("\n\n“I hear only the fridge,” he said.", "father", ""),
        (
            "\n\nWhen he had gone, Juno opened the window and leaned out. “Please,” she said, “could you hum lower?”",
            "Juno",
            "window",
        ),
        ("\n\nThe moon turned round. It had not known that anybody was awake.", "moon", ""),
        (
            "\n\nIt came down over the roofs, past the church, and sat on the garden wall like a big pale cat.",
            "moon",
            "church, garden",
        ),
        ("Juno climbed out in her slippers.", "Juno", ""),
        ("\n\nTogether they hummed, quite low, until the hens complained.", "Juno, moon", ""),
        (
            "\n\nIn the morning her father found her asleep on the wall, with dust on her slippers that shone.",
            "father, Juno",
            "wall",
        ),
    ),
)

UNSEEN = (FABLE, DIARY, QUIET, FARCE, TREATMENT, SHORT_SCRIPT, MARKET, CHASE, LULLABY)
