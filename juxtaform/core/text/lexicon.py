"""Word lists for reading a story: who can act, where things happen, what is said, done, held, and when."""

from __future__ import annotations

_FEMALE = """woman girl mother mum mom mama grandmother grandma granny aunt sister daughter queen princess lady wife
    witch nun duchess heroine niece waitress actress landlady hen cow mare bride madam
""".split()
_MALE = """man boy father dad papa grandfather grandpa uncle brother son king prince lord husband wizard monk duke hero
    nephew waiter landlord rooster bull stallion groom sir gentleman lad
""".split()
_PEOPLE = """captain doctor teacher mayor baker farmer sailor soldier guard ranger driver pilot keeper cook butcher
    fisherman boatman policeman policewoman officer judge child kid baby friend stranger thief pirate knight
    giant ghost robot clown student apprentice neighbour neighbor shepherd hunter miller carpenter postman
    librarian nurse smith conductor merchant beggar traveller traveler engineer astronaut detective crowd family
    twin twins servant gardener porter clerk dancer singer painter innkeeper ferryman elder chief messenger
    villager customer passenger scientist inventor tailor professor gardener fishmonger grocer cobbler weaver potter
    blacksmith locksmith watchmaker clockmaker chimney-sweep plumber builder bricklayer fireman firefighter
    paramedic surgeon dentist vet chemist lawyer journalist reporter photographer sculptor writer poet author
    musician fiddler drummer piper violinist pianist actor juggler acrobat clown magician sorcerer enchanter
    hermit pilgrim priest vicar bishop rabbi imam scout explorer diver swimmer rower skipper bosun cabin-boy stoker
    admiral general colonel sergeant soldier archer squire herald jester page emperor empress stranger visitor guest
    host orphan toddler teenager grown-up adult parent cousin grandchild schoolboy schoolgirl classmate headmaster
    headmistress caretaker janitor guard burglar robber smuggler spy prisoner hostage enemy champion
    runner cyclist skater footballer referee coach
""".split()
_CREATURES = """dog cat fox bear wolf bird horse mouse rat rabbit hare goose duck owl crow raven fish whale crab frog toad
    snake lion tiger elephant monkey ape pig sheep lamb goat donkey deer hedgehog badger squirrel beaver otter
    seal turtle tortoise snail spider bee ant butterfly moth dragon monster troll elf dwarf fairy unicorn
    mermaid puppy kitten pony calf chick penguin parrot pigeon gull swan sparrow robin bat mole camel giraffe
    octopus shark dolphin heron stork crane swallow magpie jackdaw robin wren hen rooster turkey peacock ostrich
    pelican puffin hawk eagle falcon kingfisher carp pike trout salmon herring eel lobster shrimp prawn jellyfish
    starfish oyster newt lizard gecko crocodile alligator ladybird beetle cricket grasshopper wasp fly ladybug
    caterpillar worm slug mosquito stoat weasel ferret marten lynx leopard panther cheetah hyena jackal bison buffalo
    ox goat ram ewe foal filly colt hound terrier tomcat kangaroo koala panda walrus hippo hippopotamus rhino
    rhinoceros elk moose reindeer antelope gazelle zebra llama hamster gerbil porcupine raccoon skunk armadillo
    sloth scarecrow snowman puppet doll goblin ogre imp gnome sprite phoenix griffin werewolf vampire skeleton
    mummy alien cyclops
""".split()

GENDER: dict[str, str] = {**dict.fromkeys(_FEMALE, "f"), **dict.fromkeys(_MALE, "m")}
CREATURES = frozenset(_CREATURES)
ANIMATE = frozenset([*_FEMALE, *_MALE, *_PEOPLE, *_CREATURES])
"""Nouns that can be somebody in a picture."""

PLACE_NOUNS = frozenset(
    """kitchen bakery square room bedroom bathroom hall hallway corridor doorway attic cellar basement garden yard
    garage house home hut cabin cottage castle palace tower church temple school classroom library office shop
    store market stall street road lane alley path bridge river stream lake pond sea ocean beach shore coast
    harbour harbor quay pier dock steps stairs staircase step roof rooftop wall gate village town city station
    platform stop tram train bus boat ship deck cave mine tunnel forest wood woods jungle meadow field hill
    hilltop mountain valley cliff desert island swamp tent camp fire fireplace campfire waterfall window balcony
    terrace porch park playground zoo circus theatre theater stage museum hospital prison cell workshop studio
    factory mill barn stable farm orchard well fountain lighthouse lamp-room inn tavern cafe café restaurant
    dining-room nursery loft bank hotel lobby lift elevator airport hangar moon planet spaceship cockpit
    laboratory lab graveyard cemetery plaza courtyard arena court crossroads glade clearing summit peak ledge
    canal reef snowfield glacier igloo nest den burrow sky bed passage vault chapel bathtub tub puddle gutter greenhouse kiosk shed hut shack
    pantry scullery larder landing gallery ballroom throne-room dungeon moat drawbridge rampart battlement turret
    alleyway pavement sidewalk gateway archway railway tracks junction crossing bus-stop roundabout motorway
    marsh bog moor heath dune dunes bay cove lagoon delta rapids oasis prairie savannah plateau canyon
    gorge ravine crater volcano iceberg tundra vineyard meadowland hedge maze lawn patio pool treehouse treetop
    attic-stairs belfry crypt cloister abbey monastery mosque synagogue pagoda shrine pyramid ruin ruins
""".split()
)
"""Nouns that can be where a picture plays."""

PLACE_BY = (
    r"in|at|on|into|onto|inside|outside|through|under|underneath|beneath|over|above|below|behind|beside|near|by|along|"
    r"across|around|down|up|to|towards|toward|from|of|off|past|beyond"
)
ADJECTIVES = frozenset(
    """old young little big small tall short fat thin great tiny huge long poor rich wise brave clever strange kind
    red black white blue green brown grey gray golden silver wooden brass dark bright first second last other
    empty whole same very dry wet warm cold
""".split()
)

SAYING = (
    r"said|says|asked|asks|cried|cries|shouted|shouts|whispered|whispers|replied|replies|answered|answers|called|calls|"
    r"muttered|mutters|murmured|murmurs|exclaimed|yelled|yells|sighed|sighs|laughed|laughs|growled|growls|snapped|added|"
    r"adds|begged|sang|sings|told|explained|explains|grumbled|hissed|whimpered|wondered|roared|announced|declared|began|"
    r"went on|repeated|promised|thought|thinks"
)
ONLY_LIVING = frozenset(
    """said asked cried shouted whispered replied answered muttered murmured sighed laughed growled grumbled smiled grinned
    frowned nodded shrugged yawned blinked winked sniffed sneezed coughed listened heard saw knew thought wanted
    promised remembered forgot decided hoped wished believed begged knelt bowed waved saluted pointed walked tiptoed
    hopped crept limped strolled marched danced hurried ate drank chewed licked bit slept snored woke dreamed wept
    sobbed giggled chuckled stared gazed peered glanced watched searched grabbed snatched carried knocked climbed
    says asks cries shouts whispers replies answers mutters sighs laughs growls smiles grins frowns nods shrugs
    yawns blinks winks sniffs listens hears sees knows thinks wants promises remembers decides hopes kneels bows
    waves salutes points walks tiptoes hops creeps limps marches dances hurries eats drinks licks sleeps snores
    wakes weeps sobs giggles stares gazes peers glances watches searches grabs carries knocks climbs
""".split()
)
"""Verbs that only somebody alive does: their subject is somebody, whatever noun names it."""
THINGS_THAT_GO = frozenset(
    """boat ship bus train tram spaceship bed fire campfire window step stage wall gate nest deck roof ledge cell well
    bank balcony stall tent fountain chapel passage fireplace stairs staircase steps moon planet
""".split()
)
"""Place nouns that are as often a thing in the picture as where it plays: only a preposition makes a place of them."""
HANDLING = (
    r"took|takes|take|taking|held|holds|hold|holding|lifted|lifts|picked up|picks up|carried|carries|carrying|opened|opens|"
    r"gave|gives|put|puts|threw|throws|grabbed|grabs|dropped|drops|pulled|pulls|pushed|pushes|blew|blows|wore|wears|"
    r"wearing|lit|lights|raised|raises|swung|swings|waved|waves|found|finds|brought|brings|handed|hands|caught|catches|"
    r"turned|turns|polished|polishing|drew|draws|with|has|had|have|stole|steals|borrowed|borrows|tied|ties|bites"
)
IRREGULAR_PAST = frozenset(
    """was were is are has had did does do sat stood went came ran saw took gave held said told knew thought felt
    found kept left let made put rose sang shook slept spoke swam threw woke wore wrote ate began blew broke
    brought built caught chose cut drew drank drove fell flew forgot got grew heard hid hit hung hurt knelt laid
    led lay lit lost meant met paid read rode rang sent set shot shut sank slid stole stuck swept swung taught
    tore understood won wound bent bit bled bred cast clung crept dealt dug fed fled flung froze leapt lent quit
    sewn shone shrank spent spun spat split spread sprang stung stank strode struck strung swore wept will would
    could can must may might should
""".split()
)
SINGULAR_VERB = r"\w+(?:ed|es|s)\b"

TIMES: tuple[tuple[str, str], ...] = (
    (r"dawn|sunrise|daybreak", "dawn"),
    (r"morning|breakfast", "morning"),
    (r"noon|midday|lunch(?:time)?", "noon"),
    (r"afternoon", "afternoon"),
    (r"dusk|sunset|twilight|evening", "dusk"),
    (r"midnight|night|moonlight|starlight", "night"),
    (r"day|daylight", "day"),
)
"""Words for a time of day, and its name; earlier rows win."""

FUNCTION_WORDS = frozenset(
    """a about above across after again all almost along already also always am an and another any are around as at
    away back be because been before behind being below beneath beside between beyond both but by came can come
    could did do does done down each either else even ever every everybody everyone everything far few first for
    from get go had has have he her here hers him his how however i if in inside into is it its just last later
    left like long many maybe me meanwhile mine more most much must my near never next no nobody none nor not
    nothing now of off often on once one only onto or other others our out outside over own perhaps quite rather
    right said same she should since so some somebody someone something soon still such suddenly than that the
    their them then there these they thing this those though through till to together tomorrow tonight too
    toward towards two under until up upon us very was we well went were what when where which while who whom
    whose why will with within without would yes yesterday yet you your yours three four five six seven eight
    nine ten monday tuesday wednesday thursday friday saturday sunday january february march april june july
    august september october november december oh ah hey hello please thank thanks good dear okay ok chapter
    part scene int ext rain snow gulls wind mr mrs ms dr god lord hush shh look listen wait stop come let's
    don't perhaps anyway finally somewhere everywhere nowhere yonder dawn dusk noon night morning evening
    everybody's
""".split()
)
"""Words whose capital at the start of a sentence makes no name."""

COMMON_NAMES = frozenset(
    """will may rose mark grace hope faith joy jack bill frank rich art grant chase dawn ivy lily daisy olive pearl
    ruby violet iris hazel amber robin wren drake jay pat sue rob nick pip bud max sunny misty sandy rusty reed
    river brook cliff stone wood hunter mason cooper baker cook smith summer autumn april june august christian
    angel ash fern holly poppy sky star storm rain major prudence patience charity victor
""".split()
)
"""Names that are also common words: at the start of a sentence the word behind them has to tell."""
