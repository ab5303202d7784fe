"""Seven more made-up texts, broken down by hand: `READ` were worked on; `UNREAD` were first read when these rules stood, and mended after (the docs have the first rates)."""

from __future__ import annotations

from tests.story_texts import Told

WELL = Told(
    "tale of a well",
    "prose",
    (
        (
            "Behind the schoolhouse there was a well that nobody used. Irmi knew a secret about it. If you dropped a word down it, the word came up again next day as something else.",
            "Irmi",
            "well",
        ),
        ("She had tried it with apple. In the morning a hedgehog was sitting on the rim.", "Irmi, hedgehog", "well"),
        (
            "One Monday the new boy followed her. His name was Kasimir and he never smiled. “What are you doing?” he asked.",
            "Irmi, Kasimir",
            "well",
        ),
        (
            "Irmi put a finger to her lips and leaned over the edge. “Friend,” she whispered into the dark.",
            "Irmi, Kasimir",
            "well",
        ),
        ("That night it rained so hard that the gutters sang. Irmi lay in her bed and could not sleep.", "Irmi", "bed"),
        (
            "At dawn she ran across the wet playground in her pyjamas. Kasimir was there already, with mud up to his knees.",
            "Irmi, Kasimir",
            "playground",
        ),
        ("On the rim of the well sat an enormous toad with a hat on.", "toad", "well"),
        (
            "“Good morning,” said the toad. “Which of you ordered me?” And then, for the first time, Kasimir laughed.",
            "toad, Kasimir",
            "well",
        ),
    ),
)

ROBOT = Told(
    "present tense, a machine and a child",
    "prose",
    (
        (
            "Unit Seven sweeps the museum at night. It sweeps the hall of bones, it sweeps the hall of birds, and it never looks up.",
            "Unit Seven",
            "museum",
        ),
        ("Tonight somebody is sleeping under the whale.", "", "museum"),
        (
            "Unit Seven stops. A small girl opens one eye. “Are you going to tell?” she asks.",
            "Unit Seven, girl",
            "museum",
        ),
        (
            "The robot thinks about this for four seconds, which is a very long time. Then it switches off its lamp and sits down beside her.",
            "robot, girl",
            "museum",
        ),
        (
            "They listen to the rain on the glass roof. The girl tells it about her grandmother's goats.",
            "girl, Unit Seven",
            "museum",
        ),
        (
            "Footsteps. The guard comes down the stairs with his torch. “Seven? Why have you stopped?”",
            "guard",
            "stairs",
        ),
        ("“I am looking up,” says Unit Seven.", "Unit Seven", "museum"),
        (
            "In the morning the first visitors find a broom leaning against the whale, and two sets of prints in the dust, one round and one very small.",
            "visitors",
            "museum",
        ),
    ),
)

BRIDGE_SCRIPT = Told(
    "second film script",
    "fountain",
    (
        (
            "EXT. RAILWAY BRIDGE - NIGHT\n\nSnow. TWO BROTHERS, 8 and 10, lie on their stomachs and look down through the sleepers. Far below, a river.",
            "brothers",
            "Railway bridge",
        ),
        ("\n\nNOAH\nIt's coming.\n\nEZRA\nIt isn't.", "Noah, Ezra", "Railway bridge"),
        ("\n\nThe rails begin to hum. Ezra jumps up and runs. Noah does not move.", "Noah, Ezra", "Railway bridge"),
        (
            "\n\nINT. SIGNAL BOX - SAME\n\nAn OLD WOMAN in a railway cap puts down her knitting and looks at the clock.",
            "old woman",
            "Signal box",
        ),
        ("\n\nOLD WOMAN\nThere is no train tonight.", "old woman", "Signal box"),
        (
            "\n\nEXT. RAILWAY BRIDGE - CONTINUOUS\n\nA light without a train rolls slowly over the bridge. It stops in front of Noah and sniffs at his shoes.",
            "Noah",
            "Railway bridge",
        ),
    ),
)

ATTIC = Told(
    "an uncle and a trunk",
    "prose",
    (
        (
            "When Uncle Bertram came home from the sea he brought a trunk that no one was allowed to open. He put it in the attic and sat on it all through Sunday lunch.",
            "Uncle Bertram",
            "attic",
        ),
        ("“He will have to eat some time,” said Maud. Her little brother Pip agreed.", "Maud, Pip", ""),
        (
            "They carried a plate of dumplings up the ladder and set it down on the top rung, where their uncle could just not reach it.",
            "Maud, Pip, uncle",
            "ladder",
        ),
        (
            "Uncle Bertram sniffed. He looked at the dumplings, he looked at the children, and he stretched out one long arm.",
            "Uncle Bertram, Maud, Pip",
            "attic",
        ),
        (
            "The trunk lifted its lid by a finger's width, and a blue tentacle took the dumplings first.",
            "Uncle Bertram",
            "attic",
        ),
        ("Nobody spoke. Then the trunk burped, and Pip began to giggle.", "Pip", "attic"),
        (
            "That evening the four of them had supper in the attic: a sailor, two children, and somebody called Gwendoline who would only eat with a spoon.",
            "Bertram, Maud, Pip, Gwendoline",
            "attic",
        ),
    ),
)

HARE = Told(
    "fable of a hare and a clock",
    "prose",
    (
        (
            "A hare found a pocket watch in the clover. It ticked, and because it ticked he took it for a heart.",
            "hare",
            "clover",
        ),
        (
            "“Whose heart is this?” he asked the mole, but the mole had never seen one. He asked the crow. The crow said that it looked like hers.",
            "hare, mole, crow",
            "clover",
        ),
        (
            "So the hare carried it through the beech wood to the old badger, who knew about insides.",
            "hare, badger",
            "wood",
        ),
        (
            "The badger held it to his ear for a long while. “It's somebody's,” he said, “and it is running down.”",
            "badger, hare",
            "wood",
        ),
        (
            "They sat with it all night in the badger's kitchen. They wrapped it in moss and sang to it, but towards morning it went slower and slower and stopped.",
            "badger, hare",
            "kitchen",
        ),
        ("The hare wept. The badger buried it under the elder bush and put a stone on top.", "hare, badger", "bush"),
        (
            "At noon a boy came through the clover, looking at the ground. He did not see the hare, and the hare did not know what he was looking for.",
            "boy, hare",
            "clover",
        ),
    ),
)

NIGHT_BUS = Told(
    "a bus, single quotes",
    "prose",
    (
        (
            "The last bus to Harrow Hill had one passenger. Mrs Adeyemi sat right at the back with a cake box on her knees, and she was singing under her breath.",
            "Mrs Adeyemi",
            "bus",
        ),
        (
            "At the corner of Mill Lane the driver braked. Somebody was standing in the road with his hand up.",
            "driver",
            "road",
        ),
        (
            "It was a bear. He wore a raincoat and carried a briefcase. ‘Is this the hundred and four?’ he said. ‘It is,’ said the driver, and shut his eyes, and opened them again.",
            "bear, driver",
            "bus",
        ),
        (
            "The bear paid and came down the aisle, ducking his head. He took the seat in front of Mrs Adeyemi.",
            "bear, Mrs Adeyemi",
            "bus",
        ),
        ("‘Long day?’ she asked. ‘You have no idea,’ said the bear. She opened the box.", "Mrs Adeyemi, bear", "bus"),
        (
            "By the time they reached the terminus the box was empty, and the bear had told her everything about the bank.",
            "Mrs Adeyemi, bear",
            "terminus",
        ),
        (
            "He helped her down the steps and went off up the hill between the street lamps, and in every garden he passed the dogs lay flat and said nothing.",
            "bear, Mrs Adeyemi, dogs",
            "hill",
        ),
    ),
)

PEARLS = Told(
    "a sea tale with two sisters",
    "prose",
    (
        (
            "Two sisters lived on the last island, Ysolde and Wren. Ysolde mended nets on the harbour wall. Wren dived for pearls and never found any.",
            "Ysolde, Wren",
            "island",
        ),
        ("One grey afternoon Wren swam farther out than ever before and saw a light under the water.", "Wren", "water"),
        (
            "She dived. At the bottom stood a house with its lamps lit, and an old man was sweeping the sand from his doorstep.",
            "Wren, man",
            "house",
        ),
        ("“You are late,” said the old man, and he gave her the broom.", "Wren, man", "house"),
        (
            "On the harbour wall Ysolde waited until the stars came out. Then she took her longest net, and her sharpest hook, and rowed.",
            "Ysolde",
            "harbour wall",
        ),
        (
            "She let the net down where the light was. When she pulled it up again there was a broom in it, and holding on to the broom with both hands was her sister, laughing and spitting water.",
            "Ysolde, Wren",
            "boat",
        ),
        ("They hung the broom over their kitchen door. It has never stopped dripping.", "Ysolde, Wren", "kitchen"),
    ),
)

READ = (WELL, ROBOT, BRIDGE_SCRIPT)
UNREAD = (ATTIC, HARE, NIGHT_BUS, PEARLS)
