"""Fifty briefs with hand-made truth, in a seventh world, written when the rules stood, and mended after
their first reading (docs/briefs.md has the first rates)."""

from __future__ import annotations

from juxtaform.core.brief.compose import Member, StyleWords
from tests.briefs.world import A, D, F, M, N, T, U, World, person, place, rows, view

STATION = World(
    {
        "juno": person(
            "juno", "Juno", "Juno, a girl of nine: short white hair, an orange space suit, a patch over one eye."
        ),
        "abel": person("abel", "Abel", "Abel, her grandfather: a long beard, a green cardigan, slippers."),
        "tin": person("tin", "Tin", "Tin, a robot like a bucket on three wheels, one red lamp.", ("one red lamp",)),
        "fox": person("fox", "The Comet", "The Comet, a fox of blue fire."),
        "captain": person(
            "captain", "Captain Sol", "Captain Sol, a tall woman: a black uniform, a silver braid, a scar."
        ),
        "plant": Member("plant", "prop", "Bean plant", "A bean plant in a yellow pot.", views=(view("plant"),)),
        "radio": Member(
            "radio", "prop", "Radio", "A wooden radio with one dial.", owner="abel", views=(view("radio"),)
        ),
        "bridge": place("bridge", "Bridge", "The bridge of a station, a wide window, stars."),
        "garden": place("garden", "Glass garden", "A garden under glass, in the light of a small sun."),
        "dock": place("dock", "Dock", "A dark dock with one shuttle."),
        "crater": place("crater", "Crater", "A grey crater under a black sky."),
    },
    {"pastel": StyleWords("pastel", "Pastel", "Chalk pastel on dark paper.", ("chalk pastel",), donts=("logos",))},
    {
        "abel": ("her grandfather", "Grandpa"),
        "captain": ("the captain", "Sol"),
        "tin": ("the robot",),
        "fox": ("the Comet", "the fox"),
        "plant": ("the bean",),
        "garden": ("the garden",),
        "crater": ("the crater",),
    },
    {"juno": {"pyjamas": "Grey pyjamas."}},
    {"juno": (("", "suit", "orange"),), "captain": (("", "uniform", "black"),), "abel": (("", "cardigan", "green"),)},
)

WORKED = rows(
    STATION,
    "pastel",
    ("Juno floats upside down past the window, her arms spread.", "juno bridge", ""),
    ("Abel waters the bean with a syringe.", "abel plant garden", ""),
    ("Abel waters the bean with a syringe.", "abel garden", N),
    ("The robot holds out its tray; on it, one bean.", "tin garden", ""),
    ("The robot holds out its tray; on it, one bean.", "garden", N),
    ("Tin cans roll across the floor.", "dock", M),
    ("Captain Sol signs the log without looking up.", "captain bridge", ""),
    ("Captain Sol in a white uniform salutes.", "captain bridge", F),
    ("The sun rises over the rim of the crater.", "crater", ""),
    ("The fox streaks across the sky, sparks in its tail.", "fox crater", ""),
    ("Tracks of fire, and at the end of them two blue eyes.", "fox crater", ""),
    ("Juno had never seen snow.", "juno crater", U),
    ("Juno draws a fox in the dust with her glove.", "juno crater", ""),
    ("Grandpa misses the sea.", "abel garden", U),
    ("Grandpa holds a shell to his ear.", "abel garden", ""),
    ("“Come in, Tin,” says Juno into the radio. “Tin?”", "juno radio bridge", ""),
    ("The radio crackles. Juno and her grandfather lean over it.", "juno abel radio bridge", ""),
    ("The radio crackles. Juno and her grandfather lean over it.", "juno radio bridge", N),
    ("The dock is dark, its only light the lamp of the robot.", "tin dock", ""),
    ("Juno in her pyjamas, her nose against the cold glass.", "juno/pyjamas bridge", ""),
    ("Juno in her pyjamas, her nose against the cold glass.", "juno bridge", F),
    ("Juno opens the hatch, pushes the pot inside and slams it shut.", "juno plant dock", T),
    ("A boy with three eyes and a jacket of moss stands behind the shuttle.", "dock", D),
    ("Somebody is standing behind the shuttle.", "juno dock", A),
    ("Nobody is on the bridge. The wheel turns by itself.", "bridge", ""),
    ("Nobody is on the bridge. The wheel turns by itself.", "captain bridge", A),
    ("The captain's chair, and in it a curled-up fox of blue fire.", "fox bridge", ""),
    ("The captain's chair, and in it a curled-up fox of blue fire.", "fox captain bridge", A),
    ("Will they ever come back? Abel looks at the empty dock.", "abel dock", ""),
    ("The station might have been a whale once.", "dock", U),
    ("Juno waves to the fox, which is already a dot among the stars.", "juno fox crater", ""),
    ("The fox does not burn her; its fire is cool.", "fox juno crater", ""),
    ("Abel with his green cardigan inside out.", "abel garden", ""),
    ("Abel in a blue cardigan snores.", "abel garden", F),
    ("Juno lifts her eye patch.", "juno garden", ""),
    ("Tin has been waiting for years.", "tin dock", U),
    ("Dust lies thick on Tin.", "tin dock", ""),
    ("Juno wipes the dust off the robot's lamp; it glows.", "juno tin dock", ""),
    ("Juno wipes the dust off the robot's lamp; it glows.", "juno dock", N),
    ("Three shadows on the glass: a girl, an old man, a fox.", "juno abel fox garden", ""),
    ("The captain thinks that the child is lying.", "captain bridge", U),
    ("The captain bends down until their noses touch.", "captain juno bridge", ""),
    ("The captain and Juno, nose to nose.", "captain juno bridge", ""),
    ("Juno, her cheeks wet, hugs the robot with both arms.", "juno tin dock", ""),
    ("A crew of small machines carries the shuttle on its back.", "dock", ""),
    ("It rains in the garden.", "garden", ""),
    ("Juno can whistle louder than any siren.", "juno dock", U),
    ("Juno whistles with two fingers, her face red.", "juno dock", ""),
    ("Behind the captain the stars go out one by one.", "captain bridge", M),
    ("One star is left.", "bridge", ""),
)
