"""Twelve made-up texts more, broken down by hand before any rule was run on them: `LOOKED_AT` served to set the numbers for places, `KEPT` were read when these
stood (the docs have the first rates)."""

from __future__ import annotations

from tests.story_texts import Told

BAKER = Told(
    "a baker's night",
    "prose",
    (
        (
            "Long before anyone else was awake, Ottilie stood in the bakery and weighed the flour. Her hands were white to the elbows.",
            "Ottilie",
            "bakery",
        ),
        (
            "Something knocked on the shutters. “We open at six,” she called, but the knocking went on, soft and quick.",
            "Ottilie",
            "bakery",
        ),
        (
            "In the lane stood a badger with a basket over his arm. “Twelve rolls,” he said, “and one without salt, for my wife.”",
            "badger",
            "lane",
        ),
        (
            "Ottilie had never sold anything to a badger. She wrapped the rolls in paper, and he paid with a hazelnut and a silver button.",
            "Ottilie, badger",
            "lane",
        ),
        (
            "She was curious, so she took off her apron and went after him, past the church and the last houses and down to the river.",
            "Ottilie, badger",
            "river",
        ),
        (
            "Under the bridge forty animals sat at a long table. There were candles in bottles, and somebody was tuning a violin.",
            "",
            "bridge",
        ),
        (
            "“You have come to the wedding!” cried the badger, and he pulled out a chair for her between an otter and an owl.",
            "badger, Ottilie",
            "bridge",
        ),
        (
            "When the bells rang six, she ran all the way home. The queue before her shop was long, and nobody understood why the baker was humming.",
            "Ottilie",
            "shop",
        ),
    ),
)

NIGHT_RADIO = Told(
    "the radio that spoke at night",
    "prose",
    (
        (
            "Mira's grandmother lived on the thirteenth floor. From her balcony you could see the whole town, the gasworks and a corner of the sea.",
            "",
            "balcony",
        ),
        (
            "On Sunday evenings they ate soup in the kitchen and listened to the old radio on the fridge.",
            "Mira, grandmother",
            "kitchen",
        ),
        (
            "This Sunday there was no music. “Hello?” said a small voice. “This is the lift. I am stuck between nine and ten.”",
            "Mira, grandmother",
            "kitchen",
        ),
        (
            "Grandmother put down her spoon. “It has never asked for anything before,” she said. They took the torch and hurried down the stairwell.",
            "grandmother, Mira",
            "stairwell",
        ),
        (
            "On the tenth floor Mr Basra was already pressing the button. He wore pyjamas and one shoe. “Listen,” he whispered, “it's crying.”",
            "Basra, Mira, grandmother",
            "floor",
        ),
        (
            "Mira lay down on her stomach and shone the torch through the crack. “Don't be afraid,” she said. “Shall I sing something?”",
            "Mira",
            "floor",
        ),
        (
            "She sang all four verses of the boat song. At the end of the last one, something clicked, and the doors slid open.",
            "Mira",
            "floor",
        ),
        (
            "They rode up together, very slowly. Inside it smelled of oranges, and the little lamp in the ceiling shone as bright as it could.",
            "Mira, grandmother",
            "lift",
        ),
    ),
)

SNAIL = Told(
    "a snail goes to sea",
    "prose",
    (
        (
            "A snail named Ferdinand lived in a lettuce bed behind the station. Every day he heard the trains, and every day he thought: tomorrow.",
            "Ferdinand",
            "bed",
        ),
        (
            "One morning he packed his shell and crept across the platform. It took him until noon, because everybody was in a hurry except him.",
            "Ferdinand",
            "platform",
        ),
        (
            "A boy with a suitcase picked him up. “Where do you want to go?” asked the boy. “To the sea,” said Ferdinand. “So do I,” said the boy.",
            "boy, Ferdinand",
            "platform",
        ),
        (
            "They shared a window seat. Fields flew past, and pylons, and a castle on a rock. Ferdinand felt quite dizzy.",
            "boy, Ferdinand",
            "train",
        ),
        (
            "In the tunnel it went dark, and a lady across from them began to snore like a walrus.",
            "lady, boy, Ferdinand",
            "train",
        ),
        (
            "When the train stopped at last, the air tasted of salt. The boy ran down the dunes and held up his hand with the snail on it.",
            "boy, Ferdinand",
            "dunes",
        ),
        (
            "“It is bigger than a lettuce bed,” said Ferdinand after a long silence.",
            "Ferdinand",
            "dunes",
        ),
        (
            "He lives on the pier now. He has a barnacle for a neighbour, and on Sundays the boy brings him a leaf.",
            "Ferdinand, boy",
            "pier",
        ),
    ),
)

MUSEUM = Told(
    "the museum guard",
    "prose",
    (
        (
            "At nine the museum closed. Hamid the guard hung up his cap, took off his shoes, and walked through the halls in his socks.",
            "Hamid",
            "halls",
        ),
        (
            "In the room of the Egyptians a mummy was sitting on the edge of its coffin. “My foot has gone to sleep,” it said.",
            "mummy, Hamid",
            "room",
        ),
        (
            "“That happens,” said Hamid. He offered it his arm. Together they limped up and down before the glass cases.",
            "Hamid, mummy",
            "room",
        ),
        (
            "“I would like to see the moon,” said the mummy. “I have not seen it for three thousand years.”",
            "mummy, Hamid",
            "room",
        ),
        (
            "So they climbed the back stairs, past the brooms and the buckets. The mummy had to stop on every landing.",
            "Hamid, mummy",
            "stairs",
        ),
        (
            "The roof was flat and wet with dew. Hamid spread out his jacket, and they sat down side by side among the chimneys.",
            "Hamid, mummy",
            "roof",
        ),
        (
            "The moon came out from behind the tower. The mummy looked at it for a long time. “It has grown older,” it said.",
            "mummy, Hamid",
            "roof",
        ),
        (
            "In the morning a small boy pressed his nose against the glass. “Mum,” he said, “why is it smiling?”",
            "boy",
            "museum",
        ),
    ),
)

POND = Told(
    "two frogs and a bucket",
    "prose",
    (
        (
            "Two frogs sat on a stone in the pond and argued about the sky. “It is round,” said Pim. “It is square,” said Pum.",
            "Pim, Pum",
            "pond",
        ),
        (
            "Then a bucket came down, scooped up water, and scooped up both frogs.",
            "Pim, Pum",
            "pond",
        ),
        (
            "It was dark in the bucket and very loud. Somebody was walking over gravel. “Now it is round,” said Pum unhappily.",
            "Pum, Pim",
            "bucket",
        ),
        (
            "They were poured out among the tomatoes. The greenhouse was as hot as an oven, and everywhere hung red moons.",
            "Pim, Pum",
            "greenhouse",
        ),
        (
            "An old toad with spectacles was reading under a flowerpot. “New here?” he asked. “The slugs are in the corner. Help yourselves.”",
            "toad, Pim, Pum",
            "greenhouse",
        ),
        (
            "They ate until they could not hop. But at night Pim looked up through the glass. “The sky has lines on it,” she said. “I want to go home.”",
            "Pim, Pum",
            "greenhouse",
        ),
        (
            "The toad showed them a broken pane. They squeezed through and hopped across the lawn, across the path, and through three flower beds.",
            "toad, Pim, Pum",
            "lawn",
        ),
        (
            "When the sun rose, two frogs sat on a stone and said nothing at all. Above them the sky was exactly as big as it had to be.",
            "Pim, Pum",
            "stone",
        ),
    ),
)

TAILOR = Told(
    "the king's new pockets",
    "prose",
    (
        (
            "The king of Aldermere had no pockets, and it made him cross. He sat on his throne and did not know where to put his hands.",
            "king",
            "throne",
        ),
        (
            "“Fetch me the tailor!” he roared. The tailor was fetched from the cellar, where the tailors worked, with her mouth full of pins.",
            "king, tailor",
            "throne",
        ),
        (
            "“One pocket or two, Your Majesty?” asked the tailor. “A hundred,” said the king.",
            "tailor, king",
            "throne",
        ),
        (
            "She sewed for nine nights. Down in the cellar the candles burned to stumps, and the mice held the thread.",
            "tailor, mice",
            "cellar",
        ),
        (
            "On the tenth day the king walked out into the courtyard in his new coat. He put a bun in the first pocket, a frog in the second, and a small trumpet in the third.",
            "king",
            "courtyard",
        ),
        (
            "By evening he could no longer move. He stood in the middle of the courtyard like a wardrobe, and the pigeons sat on him.",
            "king",
            "courtyard",
        ),
        (
            "The tailor brought a ladder. One by one she emptied the pockets, and last of all she took his hands and put them into his own old sleeves.",
            "tailor, king",
            "courtyard",
        ),
        (
            "That night they ate the hundred buns in the castle kitchen, the king, the tailor and the mice.",
            "king, tailor, mice",
            "kitchen",
        ),
    ),
)

ISLAND = Told(
    "a telephone box on an island",
    "prose",
    (
        (
            "Nobody remembered who had put the telephone box on Skerry Island. It stood between the rocks, red and rusty, with a gull's nest on top.",
            "",
            "Island",
        ),
        (
            "Every afternoon Tove rowed over with her dog and did her homework in it. It was the only place without brothers.",
            "Tove, dog",
            "box",
        ),
        (
            "She was in the middle of seven times eight when it rang. The dog barked. Tove looked at the cut wire that hung from the wall.",
            "Tove, dog",
            "box",
        ),
        (
            "“Skerry Island,” she said into the receiver. “Finally,” said a deep voice. “This is the whale. Would you look behind you?”",
            "Tove",
            "box",
        ),
        (
            "Out in the bay a grey back rose, and rose, and did not stop rising. Water ran off it like rain off a roof.",
            "whale",
            "bay",
        ),
        (
            "Tove ran down to the beach. “There's a net round my tail,” said the whale. “I rang the harbour, but they put me on hold.”",
            "Tove, whale",
            "beach",
        ),
        (
            "She rowed out with her father's bread knife. It took an hour, and the dog held the torch in his teeth.",
            "Tove, dog, whale",
            "bay",
        ),
        (
            "At home nobody asked why she was wet. Her brothers were fighting over the bathroom, and on the hall table the telephone rang, just once.",
            "Tove, brothers",
            "home",
        ),
    ),
)

CLOUDS = Told(
    "a cloud in the classroom",
    "prose",
    (
        (
            "On Monday a small cloud floated in through the window of class three and stopped above the blackboard.",
            "cloud",
            "class",
        ),
        (
            "“Whose is that?” asked Mr Lindqvist. Nobody answered. Juno looked at her shoes, which were wet.",
            "Lindqvist, Juno",
            "class",
        ),
        (
            "She had found it on the football field on Saturday, caught in the goal. She had only untangled it, and since then it followed her.",
            "Juno, cloud",
            "field",
        ),
        (
            "By the second lesson it was raining on the maps. Mr Lindqvist opened his umbrella and went on with the rivers of France.",
            "Lindqvist, cloud",
            "class",
        ),
        (
            "At break Juno led the cloud into the gym and shut the door. “You can't stay with me,” she said. “You need a sky.”",
            "Juno, cloud",
            "gym",
        ),
        (
            "The cloud turned grey and began to sniff. Thunder rolled once round the wall bars.",
            "cloud, Juno",
            "gym",
        ),
        (
            "After school they climbed the water tower together. Up there the wind was strong. It took hold of the cloud by one corner.",
            "Juno, cloud",
            "tower",
        ),
        (
            "Juno waved until it was as small as a button. It has been a dry year since, but over her garden it rains on Mondays.",
            "Juno",
            "tower",
        ),
    ),
)

THIEF = Told(
    "a burglar with good manners",
    "prose",
    (
        (
            "Mr Pock the burglar always wiped his feet. At half past one he stepped over the sill of number eleven and folded his coat over a chair.",
            "Pock",
            "eleven",
        ),
        (
            "The living room was full of clocks. He put the smallest into his bag, and it went on ticking, rather offended.",
            "Pock",
            "room",
        ),
        (
            "“Would you mind taking the cuckoo as well?” said a voice from the sofa. “It keeps me awake.”",
            "",
            "room",
        ),
        (
            "On the sofa lay a girl of about six, with a blanket and a bandaged leg. She did not seem frightened.",
            "girl",
            "room",
        ),
        (
            "“You ought to be in bed,” said Mr Pock. “I can't do the stairs,” said the girl. So he carried her up, one step at a time.",
            "Pock, girl",
            "stairs",
        ),
        (
            "In her bedroom he read her two chapters about pirates. He did all the voices. She fell asleep before the treasure.",
            "Pock, girl",
            "bedroom",
        ),
        (
            "Then he crept down again, put the clock back on its shelf, wound up the others, and let himself out by the front door.",
            "Pock",
            "room",
        ),
        (
            "The street was empty. Behind him, very softly, a cuckoo called, and Mr Pock lifted his hat.",
            "Pock",
            "street",
        ),
    ),
)

WINTERBEE = Told(
    "a bee in winter",
    "prose",
    (
        (
            "It was January, and all the bees were asleep in the hive, except one. Zuzu had drunk too much coffee flower in autumn.",
            "Zuzu, bees",
            "hive",
        ),
        (
            "She tried counting. She tried lying on her other side. In the end she put on a scarf and crawled out through the little door.",
            "Zuzu",
            "hive",
        ),
        (
            "The meadow was gone. In its place lay something white, and it was so quiet that she could hear herself blink.",
            "Zuzu",
            "meadow",
        ),
        (
            "“Shut the door, there's a draught,” said a hare who was sitting under the hawthorn. “Bees in January! What next?”",
            "hare, Zuzu",
            "hawthorn",
        ),
        (
            "“Where have the flowers gone?” asked Zuzu. The hare nodded at the farmhouse, whose windows were yellow with light.",
            "Zuzu, hare",
            "hawthorn",
        ),
        (
            "She flew in by the chimney and landed, rather black, on a sill. There stood a red geranium, and it was in bloom.",
            "Zuzu",
            "sill",
        ),
        (
            "A woman at the table looked up from her letter. She did not scream. She put a drop of honey on a spoon and held it out.",
            "woman, Zuzu",
            "sill",
        ),
        (
            "Back in the hive, Zuzu pulled the scarf over her ears. “What was it like?” murmured her sister. “White,” said Zuzu, and slept.",
            "Zuzu, sister",
            "hive",
        ),
    ),
)

MOONBUS = Told(
    "the repair of the moon",
    "prose",
    (
        (
            "“The moon is flickering,” said Aunt Ru, and she fetched her toolbox from under the bed.",
            "Ru",
            "bed",
        ),
        (
            "Ilo held the ladder. It leaned against nothing at all, in the middle of the car park, and it went up further than he could see.",
            "Ilo, Ru",
            "park",
        ),
        (
            "“Don't look down before the second cloud,” said Aunt Ru. They climbed for an hour. A flock of geese overtook them, complaining.",
            "Ru, Ilo",
            "ladder",
        ),
        (
            "The moon was smaller than Ilo had expected, about as big as a gym, and covered with a fine grey dust. It buzzed.",
            "Ilo",
            "moon",
        ),
        (
            "Aunt Ru unscrewed a hatch and climbed in up to her boots. “Moths,” she said from inside. “Hundreds of them. Hold the jar.”",
            "Ru, Ilo",
            "moon",
        ),
        (
            "Ilo sat on the rim with his legs hanging over the edge and caught the moths as they came out. Each of them was warm.",
            "Ilo",
            "rim",
        ),
        (
            "Then the light steadied. Far below, in a garden, a dog stopped howling.",
            "dog",
            "garden",
        ),
        (
            "At breakfast nobody said a word about it. But the jar stood on the windowsill, and the whole kitchen glowed.",
            "",
            "kitchen",
        ),
    ),
)

KNIGHT = Told(
    "a knight who was afraid of the dark",
    "prose",
    (
        (
            "Sir Humbert was not afraid of dragons, giants or dentists. He was afraid of the dark, and he slept with eleven candles round his bed.",
            "Humbert",
            "bed",
        ),
        (
            "One day a messenger came to the gate. “The dragon has moved into the mine,” he panted, “and the miners can't get in.”",
            "messenger, Humbert",
            "gate",
        ),
        (
            "Sir Humbert rode for two days through the forest. At each inn he asked for the room with the biggest window.",
            "Humbert",
            "forest",
        ),
        (
            "The mine was a black hole in the mountain. The miners stood about before it with their lamps and looked at him hopefully.",
            "miners, Humbert",
            "mine",
        ),
        (
            "“I'll need one of those,” said Sir Humbert, and he took the biggest lamp and went in. After ten steps it went out.",
            "Humbert",
            "mine",
        ),
        (
            "He stood there in the dark with his eyes shut. “Are you afraid too?” asked a voice. It was a very large voice, and it trembled.",
            "Humbert, dragon",
            "mine",
        ),
        (
            "The dragon breathed a small flame. By its light they saw each other: a knight with shaking knees, and a dragon with a blanket.",
            "dragon, Humbert",
            "mine",
        ),
        (
            "Now the dragon lives in the castle. She sleeps at the foot of the knight's bed, and if one of them wakes in the night, somebody lights a candle.",
            "dragon, Humbert",
            "castle",
        ),
    ),
)

LOOKED_AT = (BAKER, SNAIL, POND, ISLAND, THIEF, MOONBUS)
KEPT = (NIGHT_RADIO, MUSEUM, TAILOR, CLOUDS, WINTERBEE, KNIGHT)
