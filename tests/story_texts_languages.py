"""Made-up texts in German, French and Spanish, broken down by hand before their rules were written: the first two of each language were worked on from the start, the
next after they were counted; the last ones were written then and read once.

Their cast are those who are to be seen, by their names or as the text calls them; a place counts where a heading names it.
"""

from __future__ import annotations

from tests.story_texts import Told


def _told(name: str, syntax: str, *moments: tuple[str, str, str]) -> Told:
    return Told(name, syntax, moments)


LOOKED_AT = (
    _told(
        "der Fuchs, der nicht schlafen konnte",
        "prose",
        (
            "Am Rand des Waldes, gleich hinter der alten Mühle, wohnte ein kleiner Fuchs namens Fritzi. Jeden Abend legte er sich in seinen Bau, und jeden Abend lag er wach.",
            "Fritzi",
            "",
        ),
        (
            "\n\n»Ich kann nicht schlafen«, sagte Fritzi zu seiner Mutter.\n\n»Zähl die Sterne«, murmelte die Mutter und drehte sich um.",
            "Fritzi, Mutter",
            "",
        ),
        (
            "\n\nAlso kroch Fritzi hinaus auf die Wiese. Er zählte bis hundertzwölf. Dann kam eine Wolke.",
            "Fritzi, Wolke",
            "",
        ),
        (
            "\n\n»He! Du stehst im Weg!«, rief er.\n\n»Das tut mir leid«, sagte die Wolke. »Ich suche den Mond. Hast du ihn gesehen?«",
            "Fritzi, Wolke",
            "",
        ),
        (
            "\n\nFritzi dachte nach. Gestern hatte er ihn im Teich gesehen. Zusammen zogen sie los, der Fuchs unten, die Wolke oben.",
            "Fritzi, Wolke",
            "",
        ),
        (
            "An der Brücke saß Herr Dachs und angelte.\n\n»Guten Abend, Herr Dachs. Ist der Mond hier vorbeigekommen?«\n\n»Um halb neun«, brummte Herr Dachs. »Er hatte es eilig.«",
            "Fritzi, Dachs",
            "",
        ),
        (
            "\n\nAm Teich war es still. Die Frösche hatten aufgehört zu quaken. Und mitten im Wasser, rund und gelb, lag der Mond und schlief.",
            "Mond",
            "",
        ),
        ("\n\n»Pst«, machte die Wolke und deckte ihn zu.", "Wolke", ""),
        ("\n\nFritzi legte sich ins Gras. Er wollte nur kurz warten.", "Fritzi", ""),
        ("Am nächsten Morgen fand ihn seine Mutter dort, zusammengerollt, mit Tau auf der Nase.", "Mutter, Fritzi", ""),
    ),
    _told(
        "Jelena und der Aufzug",
        "fountain",
        (
            "INT. TREPPENHAUS - NACHT\n\nJELENA (11) steht vor dem Aufzug. Ihr Koffer ist größer als sie. Die Tür geht nicht auf.",
            "Jelena",
            "Treppenhaus",
        ),
        ("\n\nJELENA\nKomm schon.\n\nSie drückt noch einmal. Nichts.", "Jelena", "Treppenhaus"),
        (
            "\n\nOben beugt sich HERR WOLLNY über das Geländer. Er trägt einen Bademantel.\n\nHERR WOLLNY\nDer fährt nur, wenn man ihn bittet.\n\nJELENA\nBitte.",
            "Wollny, Jelena",
            "Treppenhaus",
        ),
        ("\n\nDer Aufzug seufzt und öffnet sich. Jelena schiebt den Koffer hinein.", "Jelena", "Treppenhaus"),
        ("\n\nINT. AUFZUG - NACHT\n\nJelena sitzt auf dem Koffer. Die Lampe flackert.", "Jelena", "Aufzug"),
        (
            "\n\nEine STIMME kommt aus dem Lautsprecher.\n\nSTIMME\nWohin möchten Sie?\n\nJELENA\nNach Hause.",
            "Jelena",
            "Aufzug",
        ),
        (
            "\n\nEXT. DACH - MORGEN\n\nDie Tür geht auf. Jelena tritt hinaus. Unter ihr liegt die ganze Stadt.",
            "Jelena",
            "Dach",
        ),
        ("\n\nHerr Wollny sitzt schon da und gießt zwei Tassen Tee ein.", "Wollny", "Dach"),
    ),
    _told(
        "la clé de Madame Orsini",
        "prose",
        (
            "Ce matin-là, Basile trouva une clé dans sa tartine. Une toute petite clé, avec de la confiture dessus.",
            "Basile",
            "",
        ),
        (
            "\n\n— Maman, regarde ! cria-t-il.\n\nMais sa mère était déjà partie au marché. Il n'y avait que le chat, Pompon, qui dormait sur le radiateur.",
            "Basile, Pompon",
            "",
        ),
        (
            "\n\nBasile essaya la clé dans la porte du placard. Rien. Il l'essaya dans le piano. Rien non plus.",
            "Basile",
            "",
        ),
        ("Alors il descendit l'escalier et sonna chez Madame Orsini, au premier étage.", "Basile", ""),
        (
            "\n\n— Bonjour, Madame Orsini. Est-ce que c'est à vous ?\n\nLa vieille dame mit ses lunettes. Elle devint toute blanche.\n\n— Où as-tu trouvé ça ? demanda-t-elle.\n\n— Dans ma tartine.",
            "Basile, Orsini",
            "",
        ),
        (
            "\n\nElle prit Basile par la main et l'emmena au grenier. Il y faisait noir et ça sentait la pomme.",
            "Orsini, Basile",
            "",
        ),
        (
            "Tout au fond, sous une bâche, il y avait une boîte.\n\n« C'était à mon frère, dit Madame Orsini. Il est parti en mer en 1951. »",
            "Orsini",
            "",
        ),
        ("\n\nLa clé tourna. Dans la boîte, un oiseau de métal ouvrit un œil.", "", ""),
        (
            "\n\nLe soir, quand sa mère rentra, Basile et Madame Orsini dansaient dans la cuisine, et Pompon courait après un oiseau qui chantait.",
            "mère, Basile, Orsini, Pompon",
            "",
        ),
    ),
    _told(
        "le phoque du capitaine",
        "prose",
        (
            "Le capitaine Morvan vivait seul sur une péniche, avec un phoque qui s'appelait Gaston.",
            "Morvan, Gaston",
            "",
        ),
        (
            "\n\nUn jour d'hiver, une petite fille frappa à la porte. Elle s'appelait Ninon et elle avait perdu ses bottes.",
            "Ninon",
            "",
        ),
        (
            "\n\n« Entre donc, dit le capitaine. Il fait un froid de canard. »\n\nNinon entra. Elle s'assit près du poêle et regarda le phoque.",
            "Ninon, Morvan, Gaston",
            "",
        ),
        (
            "\n\n« Est-ce qu'il mord ? demanda-t-elle.\n\n— Seulement les facteurs », répondit le capitaine.",
            "Ninon, Morvan",
            "",
        ),
        ("\n\nPendant la nuit, la rivière gela. Au matin, la péniche ne bougeait plus.", "", ""),
        ("Gaston sortit le premier. Il glissa sur le ventre jusqu'à l'autre rive.", "Gaston", ""),
        (
            "\n\n« Attends-moi ! » cria Ninon.\n\nElle courut, tomba, et glissa derrière lui sur le derrière.",
            "Ninon, Gaston",
            "",
        ),
        (
            "\n\nDe l'autre côté, dans la neige, il y avait deux bottes rouges. Gaston les poussa du museau vers la fillette.",
            "Gaston, Ninon",
            "",
        ),
        ("\n\nLe capitaine Morvan les regardait de loin, sa pipe éteinte à la bouche. Il riait.", "Morvan", ""),
    ),
    _told(
        "el faro de Lucía",
        "prose",
        (
            "Lucía vivía en un faro con su abuelo y una gaviota coja que se llamaba Sardina.",
            "Lucía, abuelo, Sardina",
            "",
        ),
        ("\n\nUna noche de tormenta, la luz se apagó.\n\n—¡Abuelo! —gritó Lucía—. ¡La luz!", "Lucía", ""),
        ("\n\nEl abuelo no contestó. Estaba dormido en su sillón, con el gorro sobre los ojos.", "abuelo", ""),
        (
            "Lucía cogió la linterna y subió corriendo los ciento veinte escalones. Sardina la seguía, saltando sobre una pata.",
            "Lucía, Sardina",
            "",
        ),
        (
            "\n\nArriba hacía mucho viento. La lámpara estaba rota.\n\n—¿Qué hacemos ahora? —preguntó la niña.\n\nSardina no dijo nada, pero miró hacia el mar.",
            "Lucía, Sardina",
            "",
        ),
        ("Allí, entre las olas, se veía un barco pequeño. En la cubierta un hombre agitaba los brazos.", "hombre", ""),
        (
            "\n\nLucía encendió la linterna y la movió de un lado a otro, una vez, dos veces, tres veces. El barco giró despacio hacia el puerto.",
            "Lucía",
            "",
        ),
        (
            "\n\nA la mañana siguiente llamaron a la puerta. Era el capitán Ferrer, con la barba mojada y una caja de naranjas.",
            "Ferrer",
            "",
        ),
        (
            "\n\n—¿Quién de vosotros es el farero? —preguntó.\n\nEl abuelo señaló a Lucía. Y Lucía señaló a Sardina.",
            "Ferrer, abuelo, Lucía, Sardina",
            "",
        ),
    ),
    _told(
        "los zapatos de don Eusebio",
        "prose",
        (
            "Don Eusebio tenía la zapatería más pequeña de la ciudad. En el escaparate solo cabía un zapato.",
            "Eusebio",
            "",
        ),
        (
            "\n\nUna mañana entró una oveja.\n\n—Quiero cuatro botas —dijo la oveja.\n\nDon Eusebio se quitó las gafas y se las volvió a poner.",
            "oveja, Eusebio",
            "",
        ),
        ("\n\n—Solo tengo pares —contestó el zapatero.\n\n—Entonces deme dos pares.", "Eusebio, oveja", ""),
        (
            "\n\nDespués llegó un ciempiés con un sombrero de paja. Se llamaba Anselmo.\n\n—Buenos días —dijo Anselmo—. Yo quiero cien.",
            "Anselmo",
            "",
        ),
        ("\n\nDon Eusebio trabajó toda la noche. A medianoche se le acabó el cuero.", "Eusebio", ""),
        (
            "Entonces abrió la ventana y gritó:\n\n—¡Inés! ¡Inés!\n\nInés, la sastra de enfrente, se asomó con un gorro de dormir.",
            "Eusebio, Inés",
            "",
        ),
        (
            "\n\n—¿Qué pasa ahora?\n\n—Necesito tela. Mucha tela.\n\nElla cruzó la calle con una cortina roja en los brazos.",
            "Eusebio, Inés",
            "",
        ),
        (
            "\n\nAl amanecer, Anselmo bajó por la calle con cien zapatillas rojas. La oveja iba detrás y llevaba el ritmo.",
            "Anselmo, oveja",
            "",
        ),
    ),
)

OPENED = (
    _told(
        "Oma Liesel fliegt",
        "prose",
        (
            "Oma Liesel hatte den Besen nicht zum Fegen gekauft. Das merkte Jonas schon am Dienstag.",
            "Liesel, Jonas",
            "",
        ),
        (
            "\n\n„Halt mal die Leiter“, sagte Oma Liesel und kletterte auf das Dach.\n\n„Oma! Das ist gefährlich!“, schrie Jonas.",
            "Liesel, Jonas",
            "",
        ),
        ("\n\nSie setzte sich auf den Besen. Sie zog die Brille fest. Dann sprang sie.", "Liesel", ""),
        (
            "\n\nJonas hielt sich die Augen zu. Als er sie wieder aufmachte, flog die Großmutter über den Kirchturm.",
            "Jonas, Liesel",
            "",
        ),
        (
            "\n\nAuf dem Marktplatz ließ der Bäcker sein Brot fallen. „Da oben!“, rief der Bäcker. Der Polizist Kruse griff nach seiner Pfeife.",
            "Bäcker, Kruse",
            "",
        ),
        (
            "\n\n„Kommen Sie sofort herunter!“, befahl er.\n\n„Erst wenn ich Kaffee habe“, antwortete sie von oben.",
            "Kruse, Liesel",
            "",
        ),
        (
            "\n\nAm Abend saßen alle vier in der Küche. Der Bäcker schnitt den Kuchen, Kruse schenkte Kaffee ein, und Jonas probierte heimlich den Besen.",
            "Bäcker, Kruse, Jonas, Liesel",
            "",
        ),
    ),
    _told(
        "das Kamel im Schnee",
        "prose",
        ("In der Nacht hatte es geschneit. Selma wachte auf, weil draußen etwas nieste.", "Selma", ""),
        ("\n\nSie lief zum Fenster. Im Hof stand ein Kamel.", "Selma, Kamel", ""),
        (
            "\n\n»Papa, wir haben ein Kamel«, sagte Selma.\n\n»Nein«, sagte ihr Vater aus dem Bett, »wir haben einen Hund.«",
            "Selma, Vater",
            "",
        ),
        (
            "\n\nDas Kamel zitterte. Selma holte alle Decken aus dem Schrank und rannte die Treppe hinunter.",
            "Selma, Kamel",
            "",
        ),
        (
            "\n\n»Woher kommst du?«, fragte sie.\n\n»Aus dem Zirkus Bellini«, antwortete das Kamel. »Ich bin falsch abgebogen.«",
            "Selma, Kamel",
            "",
        ),
        ("\n\nFrau von Stetten aus dem dritten Stock öffnete ihr Fenster. »Ruhe da unten!«", "Stetten", ""),
        ("\n\nSelma und das Kamel gingen durch die leeren Straßen. Ihre Spuren waren die ersten.", "Selma, Kamel", ""),
        (
            "\n\nVor dem Zelt wartete Direktor Bellini mit einer Laterne. Er weinte ein bisschen. »Da bist du ja«, flüsterte er.",
            "Bellini",
            "",
        ),
    ),
    _told(
        "la tante Odile et le nuage",
        "prose",
        (
            "Tante Odile gardait un nuage dans sa baignoire. Personne ne le savait, sauf Timothée.",
            "Odile, Timothée",
            "",
        ),
        (
            "\n\n« Il grandit, dit Timothée en regardant par la porte.\n\n— C'est normal, répondit tante Odile. Il boit beaucoup. »",
            "Timothée, Odile",
            "",
        ),
        (
            "\n\nLe lendemain, le nuage occupait toute la salle de bains. Le surlendemain, il sortait par la fenêtre.",
            "nuage",
            "",
        ),
        ("\n\nDans la rue, Monsieur Lebrun leva la tête. Il ouvrit son parapluie.", "Lebrun", ""),
        (
            "\n\n« Votre nuage pleut sur mon chapeau ! cria le voisin.\n\n— Alors changez de chapeau ! » cria tante Odile.",
            "Lebrun, Odile",
            "",
        ),
        (
            "\n\nTimothée eut une idée. Il attacha une ficelle au nuage et sortit avec lui dans le parc.",
            "Timothée, nuage",
            "",
        ),
        (
            "\n\nLe jardinier, un homme triste appelé Firmin, regardait ses fleurs sèches.\n\n« Puis-je vous l'emprunter ? demanda-t-il.",
            "Firmin, Timothée",
            "",
        ),
        ("\n\nCe soir-là, les roses étaient rouges comme jamais, et tante Odile prit enfin un bain.", "Odile", ""),
    ),
    _told(
        "la nuit du musée",
        "fountain",
        (
            "INT. MUSÉE - NUIT\n\nUne salle immense. Des statues dans l'ombre. ADÈLE (9) est cachée derrière un rideau.",
            "Adèle",
            "musée",
        ),
        ("\n\nLe GARDIEN passe avec sa lampe. Il siffle.\n\nGARDIEN\nBonne nuit, les enfants.", "gardien", "musée"),
        ("\n\nIl éteint la lumière. Adèle sort de sa cachette.", "gardien, Adèle", "musée"),
        (
            "\n\nUne statue tourne la tête. C'est un LION de pierre.\n\nLE LION\nTu n'as pas peur ?\n\nADÈLE\nUn peu.",
            "lion, Adèle",
            "musée",
        ),
        (
            "\n\nEXT. JARDIN - AUBE\n\nAdèle et le lion marchent dans l'herbe mouillée. Le soleil se lève.",
            "Adèle, lion",
            "jardin",
        ),
        ("\n\nLe gardien les regarde de la fenêtre. Il laisse tomber son café.", "gardien", "jardin"),
    ),
    _told(
        "la abuela y el mapache",
        "prose",
        ("Marcos oyó un ruido en la cocina. Bajó la escalera de puntillas.", "Marcos", ""),
        (
            "\n\nEn la nevera abierta había un mapache. Comía queso.\n\n—Buenas noches —dijo el mapache—. ¿Quieres?",
            "mapache, Marcos",
            "",
        ),
        ("\n\nMarcos gritó tan fuerte que despertó a su abuela.", "Marcos", ""),
        (
            "La abuela Remedios entró con una escoba.\n\n—¡Fuera de mi cocina! —gritó la abuela.\n\nEl mapache levantó las manos.",
            "Remedios, mapache",
            "",
        ),
        (
            "\n\n—Señora, solo quería un poco de queso.\n\n—Ese queso es malísimo —dijo ella, y bajó la escoba—. Siéntate.",
            "mapache, Remedios",
            "",
        ),
        ("\n\nLa abuela Remedios preparó una tortilla. Marcos puso tres platos.", "Remedios, Marcos", ""),
        ("\n\nAl día siguiente, el cartero encontró al mapache barriendo la entrada. Silbaba.", "cartero, mapache", ""),
    ),
    _told(
        "el dragón de la señorita Olmo",
        "prose",
        ("La señorita Olmo llegó a la escuela con una caja enorme. Los niños dejaron de hablar.", "Olmo, niños", ""),
        (
            "\n\n—Este es Bruno —dijo la señorita Olmo—. Va a quedarse con nosotros.\n\nDe la caja salió un dragón verde, no más grande que un perro.",
            "Olmo, Bruno",
            "",
        ),
        ("\n\n—¿Echa fuego? —preguntó Tadeo.\n\n—Solo cuando estornuda.", "Tadeo, Olmo", ""),
        (
            "\n\nEn el recreo, Bruno se escondió detrás del árbol. Tenía miedo del balón. Tadeo se sentó a su lado y le dio medio bocadillo.",
            "Bruno, Tadeo",
            "",
        ),
        (
            "\n\nPor la tarde entró la directora. Llevaba un ramo de flores.\n\nBruno abrió la boca, cerró los ojos y estornudó.",
            "directora, Bruno",
            "",
        ),
        (
            "\n\nLas flores quedaron negras. Nadie respiraba.\n\n—Vaya —dijo la directora—. Hacía tiempo que quería cambiarlas.",
            "directora",
            "",
        ),
        ("\n\nAquella noche, Tadeo dibujó un dragón y lo pegó encima de su cama.", "Tadeo", ""),
    ),
)

READ_ONCE = (
    _told(
        "die Schnecke und der Briefträger",
        "prose",
        (
            "Im Briefkasten von Frau Hollerbach wohnte eine Schnecke. Sie hieß Agathe und fraß am liebsten Rechnungen.",
            "Agathe",
            "",
        ),
        (
            "\n\nJeden Mittwoch kam der Briefträger. Er klingelte zweimal.\n\n„Schon wieder ein Loch“, schimpfte der Briefträger und hielt den Umschlag gegen das Licht.",
            "Briefträger",
            "",
        ),
        (
            "\n\nFrau Hollerbach öffnete die Tür. „Haben Sie etwa Mäuse?“, fragte er.\n\n„Nur Agathe“, sagte sie.",
            "Hollerbach, Briefträger",
            "",
        ),
        (
            "\n\nAgathe streckte die Fühler aus. Der Briefträger beugte sich hinunter. Lange sahen sie einander an.",
            "Agathe, Briefträger",
            "",
        ),
        ("\n\nAm nächsten Mittwoch brachte er ein Salatblatt mit, in einem Umschlag, mit Marke.", "Briefträger", ""),
        (
            "\n\n„An Fräulein Agathe“, las Frau Hollerbach vor. Sie musste so lachen, dass sie sich setzen musste.",
            "Hollerbach",
            "",
        ),
    ),
    _told(
        "Till und der Riese",
        "prose",
        ("Der Riese schlief seit hundert Jahren, und die Leute im Tal hielten ihn für einen Berg.", "Riese", ""),
        (
            "\n\nTill kletterte auf seine Nase. Von dort konnte er das Meer sehen.\n\n„Runter da!“, rief sein Bruder Veit von unten. „Das ist verboten!“",
            "Till, Veit",
            "",
        ),
        ("\n\nDa öffnete der Riese ein Auge. Es war grün und so groß wie ein Teich.", "Riese", ""),
        (
            "\n\n„Bist du eine Fliege?“, fragte der Riese.\n\n„Nein“, sagte Till. „Ich bin Till.“\n\n„Schade“, sagte der Riese. „Fliegen kitzeln weniger.“",
            "Riese, Till",
            "",
        ),
        (
            "\n\nVeit rannte ins Dorf. Er läutete die Glocke, und alle Leute liefen auf den Platz. Der Bürgermeister trug noch seine Schlafmütze.",
            "Veit, Leute, Bürgermeister",
            "",
        ),
        (
            "\n\nOben auf der Nase sang Till ein Schlaflied. Beim dritten Vers wurden die Augen des Riesen schwer.",
            "Till, Riese",
            "",
        ),
    ),
    _told(
        "le facteur et l'ours",
        "prose",
        ("Chaque lundi, Armand montait la montagne avec une seule lettre dans son sac.", "Armand", ""),
        (
            "\n\nL'ours l'attendait devant sa grotte. Il avait mis un nœud papillon.\n\n— Rien pour moi ? demanda l'ours.\n\n— Si, dit Armand. Une facture.",
            "ours, Armand",
            "",
        ),
        ("\n\nL'ours ouvrit l'enveloppe avec une griffe. Il lut longtemps, puis il s'assit dans la neige.", "ours", ""),
        (
            "\n\n— C'est grave ? demanda le facteur.\n\n— Je dois douze pots de miel à ma cousine Berthe, soupira l'ours.",
            "Armand, ours",
            "",
        ),
        (
            "\n\nArmand réfléchit. Le lendemain, il revint avec une ruche sur le dos. Les abeilles le suivaient.",
            "Armand",
            "",
        ),
        (
            "\n\nBerthe arriva au printemps. C'était une ourse énorme, avec un chapeau à fleurs. Elle goûta le miel, ferma les yeux et embrassa Armand sur les deux joues.",
            "Berthe, Armand",
            "",
        ),
    ),
    _told(
        "la robe de Clémence",
        "prose",
        (
            "Clémence avait cousu sa robe dans un rideau. Sa sœur Inès éclata de rire.\n\n« On dirait une fenêtre ! dit Inès.\n\n— Et alors ? répondit Clémence. J'aime les fenêtres. »",
            "Clémence, Inès",
            "",
        ),
        ("\n\nElle sortit dans la cour. Le vent souffla, et la robe s'ouvrit toute grande.", "Clémence", ""),
        (
            "\n\nMadame Piquet, la concierge, laissa tomber son balai. À travers la robe, elle voyait la mer.",
            "Piquet",
            "",
        ),
        ("\n\n« Ferme ça tout de suite ! cria-t-elle. Tu vas mouiller l'escalier. »", "Piquet, Clémence", ""),
        (
            "\n\nUne mouette sortit de la poche et se posa sur la rampe. Inès ne riait plus. Elle tendit la main et toucha l'eau.",
            "Inès",
            "",
        ),
        ("\n\nLe soir, les deux sœurs dormaient sous la robe. On entendait les vagues.", "sœurs", ""),
    ),
    _told(
        "el paraguas de Matilde",
        "prose",
        ("Matilde encontró un paraguas en el autobús. Era negro y tenía un mango de pato.", "Matilde", ""),
        (
            "\n\n—Buenas tardes —dijo el paraguas.\n\nMatilde miró a su madre, pero su madre leía.\n\n—¿Me hablas a mí? —susurró Matilde.",
            "Matilde, paraguas, madre",
            "",
        ),
        ("\n\n—Claro que sí. Me llamo Baltasar —dijo el pato del mango—. Abre la ventana.", "paraguas", ""),
        (
            "\n\nMatilde la abrió. El viento entró, infló el paraguas y se llevó a los dos por encima de los tejados.",
            "Matilde, paraguas",
            "",
        ),
        (
            "\n\nAbajo, en la plaza, el guardia Cosme se rascó la cabeza.\n\n—¡Eh! —gritó el guardia—. ¡Eso no es una parada!",
            "Cosme",
            "",
        ),
        (
            "\n\nAterrizaron en el balcón de la abuela. Ella estaba regando los geranios y no se sorprendió nada.\n\n—Baltasar —dijo la abuela—, llegas tarde.",
            "abuela, Matilde",
            "",
        ),
    ),
    _told(
        "el panadero y la luna",
        "prose",
        ("Cada noche, a las tres, Severino encendía el horno. El pueblo dormía.", "Severino", ""),
        (
            "\n\nUna noche llamaron a la puerta. Era la luna, y tiritaba.\n\n—¿Puedo entrar? —preguntó la luna—. Fuera hace mucho frío.\n\n—Pasa, mujer —dijo Severino—, pero cuidado con la harina.",
            "luna, Severino",
            "",
        ),
        ("\n\nLa luna se sentó junto al fuego. Poco a poco se puso amarilla, y después dorada.", "luna", ""),
        (
            "\n\nEn la colina, el astrónomo don Hilario golpeó su telescopio.\n\n—¡Se ha roto! —gritó—. ¡No hay luna!",
            "Hilario",
            "",
        ),
        (
            "\n\nSeverino le dio un bollo a la luna. Ella lo probó y suspiró.\n\n—Mañana vuelvo —dijo.",
            "Severino, luna",
            "",
        ),
        ("\n\nAl amanecer, el panadero abrió la tienda. Todos los panes brillaban un poco.", "Severino", ""),
    ),
)
