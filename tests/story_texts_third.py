"""Ten more made-up texts, broken down by hand before any rule was run on them: `OPENED` were worked on; `SEALED` were first read when these rules stood, and mended a little
after (the docs have the first rates)."""

from __future__ import annotations

from tests.story_texts import Told

FERRY = Told(
    "a ferry in winter",
    "prose",
    (
        (
            "The last ferry of the year left at four. Lasse stood on the upper deck with his collar turned up and watched the town grow small.",
            "Lasse",
            "deck",
        ),
        (
            "Below, in the saloon, it smelled of wet wool and coffee. An old woman had put her birdcage on the table and was talking to what sat in it.",
            "woman",
            "saloon",
        ),
        (
            "“He was never on the water before,” she said, when Lasse came in to warm his hands. Under the cloth something scratched.",
            "woman, Lasse",
            "saloon",
        ),
        (
            "Lasse lifted one corner. Two yellow eyes looked at him, and they did not belong to a bird.",
            "Lasse",
            "saloon",
        ),
        (
            "Then the engine coughed and stopped. The lamps went out one after the other, and all at once it was so quiet that they could hear the snow.",
            "Lasse, woman",
            "saloon",
        ),
        (
            "The captain was kneeling in the engine room with a spanner between his teeth. Nothing moved, not even the needle of the clock.",
            "captain",
            "room",
        ),
        (
            "“Let me try,” said the old woman, and she opened the cage. A small red dragon crept out, shook itself, and climbed into the cold furnace.",
            "woman, dragon, captain",
            "room",
        ),
        (
            "When the ferry came into the harbour, smoke in three colours stood above its funnel. Lasse waved from the upper deck until both of them were gone.",
            "Lasse",
            "deck",
        ),
    ),
)

SHOE = Told(
    "a lost shoe",
    "prose",
    (
        (
            "Nobody in Miss Oduya's class had ever lost a whole shoe before. Benno had. It had been on his foot at breakfast, and now it was not.",
            "Benno",
            "",
        ),
        (
            "“Where did you see it last?” asked Miss Oduya. Benno thought so hard that his ears went pink.",
            "Oduya, Benno",
            "",
        ),
        (
            "So in the break they all went to look. They searched the cloakroom, where forty coats hung like bats.",
            "they",
            "cloakroom",
        ),
        (
            "They looked behind the bins in the yard. There was half a sandwich, and a snail who was very pleased about it.",
            "they, snail",
            "yard",
        ),
        (
            "Tilda crawled under the hedge and came out on the other side. “I found a ball!” she called. It was not a shoe.",
            "Tilda",
            "hedge",
        ),
        (
            "At last it began to rain, and everybody ran back to the classroom. Everybody but Benno, who hopped.",
            "Benno",
            "classroom",
        ),
        (
            "And there, in the middle of the carpet, sat the school cat. She was sitting in something, with her paws tucked in and her eyes shut.",
            "cat",
            "classroom",
        ),
        (
            "“Well,” said Miss Oduya softly, “that is a very good boat.” Benno let the cat have it until three o'clock.",
            "Oduya, Benno, cat",
            "classroom",
        ),
    ),
)

MOUNTAIN = Told(
    "a letter over the mountain",
    "prose",
    (
        (
            "High up where the road ends lived a postman called Gallus. His hut leaned on a rock, and the rock leaned on the wind.",
            "Gallus",
            "hut",
        ),
        (
            "Each Tuesday he went down to the village and fetched the letters. There were never many, but one of them was always for the hermit.",
            "Gallus",
            "village",
        ),
        (
            "The hermit lived on the far side of the pass, in a cave with a blue door. He had not answered in eleven years.",
            "hermit",
            "cave",
        ),
        (
            "This Tuesday there was snow on the pass up to a goat's chin. Gallus tied the letter under his hat and set out all the same.",
            "Gallus",
            "pass",
        ),
        (
            "By noon he could not see his own hands. A chamois came out of the white, looked him over, and walked ahead of him, slowly, like somebody who knows the way.",
            "Gallus, chamois",
            "pass",
        ),
        (
            "He knocked on the blue door until it opened. Inside, the walls were covered with letters from the floor to the roof, and every one had been answered.",
            "Gallus, hermit",
            "cave",
        ),
        (
            "“I never had a stamp,” said the hermit. He looked at his feet, which were bare.",
            "hermit, Gallus",
            "cave",
        ),
        (
            "In spring Gallus carried eleven years of answers down into the valley. It took him nine journeys and a borrowed mule.",
            "Gallus, mule",
            "valley",
        ),
    ),
)

NIGHTBUS = Told(
    "a night bus",
    "prose",
    (
        (
            "The night bus has only one passenger. Her name is Roya, she is seven, and she has told the driver that her mother knows all about it.",
            "Roya, driver",
            "bus",
        ),
        (
            "At the first stop a fox gets on. He has the right money. “Terminus,” he says, and sits down next to Roya.",
            "fox, Roya",
            "bus",
        ),
        (
            "At the second stop it is three hedgehogs with a cello. They need help with the step, so Roya holds the door.",
            "hedgehogs, Roya",
            "bus",
        ),
        (
            "The driver looks into his mirror and says nothing. He has driven this line for twenty years.",
            "driver",
            "bus",
        ),
        (
            "The terminus is a clearing in the wood. Lanterns hang in the birches, and a badger in a tailcoat is tapping his stand.",
            "badger",
            "clearing",
        ),
        (
            "Roya sits in the grass between two moles while the orchestra plays. She claps so loudly that an owl turns round.",
            "Roya, moles, owl",
            "clearing",
        ),
        (
            "Afterwards the bus is waiting with its doors open. She falls asleep before the first bend, with her cheek against the cold window.",
            "Roya",
            "bus",
        ),
        (
            "In the morning her mother finds her in her own bed. On the pillow lies a ticket, punched by very small teeth.",
            "mother, Roya",
            "bed",
        ),
    ),
)

SCRIPT = Told(
    "a short script",
    "fountain",
    (
        (
            "INT. BAKERY - BEFORE DAWN\n\nFlour hangs in the light of one bulb. NADIR, sixty, kneads dough with his eyes closed.",
            "Nadir",
            "bakery",
        ),
        (
            "\n\nSomebody knocks on the shutter. He does not stop.\n\nNADIR\nWe open at six.",
            "Nadir",
            "bakery",
        ),
        (
            "\n\nThe knocking goes on. He wipes his hands, and pulls the shutter up. PIA, eight, stands outside in a raincoat with a goose under her arm.",
            "Nadir, Pia, goose",
            "bakery",
        ),
        (
            "\n\nPIA\nShe has eaten my mother's ring.\n\nNADIR\nThis is a bakery.\n\nPIA\nYou are the only one awake.",
            "Pia, Nadir",
            "bakery",
        ),
        (
            "\n\nINT. BAKERY, BACK ROOM - LATER\n\nThe goose sits on the scales between two sacks. Nadir puts weights on the other side, one by one.",
            "goose, Nadir",
            "room",
        ),
        (
            "\n\nNADIR\nThree kilos and a ring.\n\nPia laughs for the first time.",
            "Nadir, Pia",
            "room",
        ),
        (
            "\n\nEXT. HARBOUR - DAY\n\nThe three of them sit on the wall in the sun and share a loaf. The goose looks thoughtful.",
            "Nadir, Pia, goose",
            "harbour",
        ),
    ),
    joint="",
)

GIANT = Told(
    "a giant who could not sleep",
    "prose",
    (
        (
            "There was once a giant who could not sleep, because his feet were cold. He lay in the valley with his head on the church hill and his toes in the lake.",
            "giant",
            "valley",
        ),
        (
            "When he turned over, chimneys fell. When he sighed, all the washing flew away to the next parish.",
            "giant",
            "valley",
        ),
        (
            "The people held a meeting in the barn of the mayor. Some wanted cannons. Some wanted to move.",
            "people, mayor",
            "barn",
        ),
        (
            "“Has anybody asked him what is wrong?” said the mayor's youngest daughter. Her name was Wenke and she was standing on a bucket.",
            "Wenke",
            "barn",
        ),
        (
            "So Wenke walked across the fields alone, climbed up on the giant's chest by the buttons, and shouted into his beard.",
            "Wenke, giant",
            "",
        ),
        (
            "“My feet,” said the giant. A tear as big as a bathtub rolled down into the cabbages.",
            "giant, Wenke",
            "",
        ),
        (
            "All that autumn the whole valley knitted. They knitted in the school, they knitted in the inn, and the smith made the needles out of two church bells.",
            "they, smith",
            "",
        ),
        (
            "On the first night of snow they pulled the socks over his toes with forty horses. The giant smiled. He slept until April, and nobody minded the snoring.",
            "giant, horses",
            "",
        ),
    ),
)

ATTIC = Told(
    "grandfather's radio",
    "prose",
    (
        (
            "It rained on the first day of the holidays, so Ilka and her cousin Sol went up to the attic. They were not supposed to.",
            "Ilka, Sol",
            "attic",
        ),
        (
            "Behind the trunks they found a radio as big as a dog kennel. Sol blew the dust off and turned the biggest knob.",
            "Ilka, Sol",
            "attic",
        ),
        (
            "It hummed. It crackled. Then a voice said, “Hello? Is it still Thursday up there?”",
            "",
            "attic",
        ),
        (
            "Ilka sat down on a trunk. “Who are you?” she asked. “I am your grandfather,” said the radio, “and I am nine.”",
            "Ilka",
            "attic",
        ),
        (
            "Down in the kitchen Grandfather was peeling potatoes. He was seventy-nine, and he did not look up when they burst through the door.",
            "Grandfather, Ilka, Sol",
            "kitchen",
        ),
        (
            "“You talked to him, then,” he said. He laid the knife on the table and dried his hands for a long time.",
            "Grandfather",
            "kitchen",
        ),
        (
            "That evening the three of them climbed the stairs together. Grandfather put on his good jacket first.",
            "Grandfather, Ilka, Sol",
            "stairs",
        ),
        (
            "He bent down to the radio. “Listen, boy,” he whispered. “Whatever they tell you, keep the dog.”",
            "Grandfather",
            "attic",
        ),
    ),
)

DESERT = Told(
    "two caravans",
    "prose",
    (
        (
            "For three days Yusra had seen nothing but sand. Her camel had stopped talking to her on the second.",
            "Yusra, camel",
            "",
        ),
        (
            "On the fourth morning a tent stood on the ridge. It was striped like a sweet, and in front of it sat a man who was polishing a teapot.",
            "man",
            "ridge",
        ),
        (
            "“You are late,” he said. “The tea is cold.” Yusra had never met him in her life.",
            "man, Yusra",
            "ridge",
        ),
        (
            "Inside the tent there were carpets on carpets. Nine clocks ticked on the ground, and no two of them agreed.",
            "",
            "tent",
        ),
        (
            "He poured her a glass. She drank, and she could suddenly remember a house with a green gate, and a lemon tree, and somebody singing.",
            "man, Yusra",
            "tent",
        ),
        (
            "“That is where you are going,” said the man. He wound up one of the clocks and put it into her hands.",
            "man, Yusra",
            "tent",
        ),
        (
            "When she came out again, the ridge was empty. There was no tent behind her, only the camel, who was chewing a striped rag.",
            "Yusra, camel",
            "ridge",
        ),
        (
            "Two weeks later she stood before a green gate. The clock in her saddlebag struck for the first time.",
            "Yusra",
            "gate",
        ),
    ),
)

MARKET = Told(
    "the market of small things",
    "prose",
    (
        (
            "“Hold my hand,” said Aunt Fen, “and don't buy anything that talks.” They went under the bridge and came out in the market.",
            "Fen",
            "market",
        ),
        (
            "It was the size of a tablecloth. Beetles sold buttons. A mouse was mending umbrellas out of bat wings, three for a crumb.",
            "mouse, beetles",
            "market",
        ),
        (
            "Jonas got down on his stomach to see better. A stall right in front of his nose sold second-hand names.",
            "Jonas",
            "market",
        ),
        (
            "“Are you tired of yours?” asked the shopkeeper, who was a shrew with spectacles. “I give good prices.”",
            "shrew, Jonas",
            "market",
        ),
        (
            "Jonas looked round. Aunt Fen was haggling over a thimble and had her back to him.",
            "Jonas, Fen",
            "market",
        ),
        (
            "He pushed his name across the counter. It was such a small thing, only five letters, and the shrew dropped it in a drawer.",
            "Jonas, shrew",
            "market",
        ),
        (
            "On the tram home Aunt Fen opened her mouth to call him, and nothing came out. She tried again. The conductor began to stare.",
            "Fen, conductor",
            "tram",
        ),
        (
            "He ran all the way back in the dark. The place under the bridge was bare, but on a stone lay five tiny letters and a bill for storage.",
            "",
            "bridge",
        ),
    ),
)

ORCHARD = Told(
    "the scarecrow's coat",
    "prose",
    (
        (
            "Old Brand made a scarecrow for the orchard and gave it his second-best coat. He stuffed the sleeves with straw and buttoned it up to the chin.",
            "Brand, scarecrow",
            "orchard",
        ),
        (
            "The crows sat on the fence and discussed it. “It is him,” said one. “It is not him,” said the other. “He is never this patient.”",
            "crows",
            "orchard",
        ),
        (
            "In the first frost a girl came along the road with a bundle. She wore a summer dress, and her teeth made a noise like dice.",
            "girl",
            "road",
        ),
        (
            "She looked at the scarecrow. She looked up and down the road. Then she climbed the fence, said she was sorry, and undid the buttons.",
            "girl, scarecrow",
            "orchard",
        ),
        (
            "Next morning Brand found a bare cross and a heap of straw. He stood there a good while with his pipe in his hand.",
            "Brand",
            "orchard",
        ),
        (
            "Then he went back to the house, opened the wardrobe and took out his best coat.",
            "Brand",
            "house",
        ),
        (
            "He hung it on the cross, and into the left pocket he put a pair of gloves and a piece of cheese.",
            "Brand",
            "orchard",
        ),
        (
            "“Now that,” said the crows, “is him.”",
            "crows",
            "orchard",
        ),
    ),
)

OPENED = (FERRY, MOUNTAIN, SCRIPT, ATTIC, MARKET)
SEALED = (SHOE, NIGHTBUS, GIANT, DESERT, ORCHARD)
