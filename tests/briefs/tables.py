"""Every table of briefs, by how it was used, with the most that preflight may tell wrongly of it and miss."""

from __future__ import annotations

from dataclasses import dataclass

from tests.briefs import (
    alp_hospital,
    canal_orbit,
    circus_moon,
    city_garden,
    farm,
    ferry_circus,
    harbour_bakery_base,
    hill_bay,
    hotel,
    island_detective,
    lighthouse_museum,
    market,
    mountain,
    pitch_factory,
    plain,
    reef_attic,
    salt_school,
    station,
    theatre_meadow,
    tower_forest,
    train_kitchen,
    village,
)
from tests.briefs.world import Row


@dataclass(frozen=True)
class Table:
    """A table of briefs. `wrong` and `missed` are the most findings told wrongly and not told."""

    title: str
    rows: tuple[Row, ...]
    wrong: int
    missed: int


TABLES = (
    Table("the table", harbour_bakery_base.TABLE, 0, 0),
    Table("later briefs", harbour_bakery_base.LATER, 0, 1),
    Table("fresh briefs, the half worked on from the start", ferry_circus.WORKED, 1, 0),
    Table("fresh briefs, the other half, worked on after its first reading", ferry_circus.LAST, 0, 1),
    Table("later briefs, worked on", farm.READ, 0, 1),
    Table("later briefs, worked on after their first reading", farm.UNREAD, 0, 0),
    Table("fourth briefs, mended after their first reading", mountain.MENDED, 1, 4),
    Table("fourth briefs, the others, read once", mountain.SEALED, 2, 1),
    Table("fifth briefs, mended after their first reading", market.WORKED, 2, 3),
    Table("fifth briefs, the others, mended after later readings", market.SEALED, 0, 1),
    Table("sixth briefs, mended after their first reading", hotel.WORKED, 0, 1),
    Table("sixth briefs, the others, mended after later readings", hotel.SEALED, 1, 0),
    Table("seventh briefs, mended after their first reading", station.WORKED, 0, 3),
    Table("eighth briefs, mended after their first reading", village.WORKED, 1, 1),
    Table("ninth briefs, mended after their first reading", hill_bay.HILL_BRIEFS, 1, 2),
    Table("tenth briefs, mended after their second reading", hill_bay.BAY_BRIEFS, 0, 1),
    Table("eleventh briefs, mended after their second reading", tower_forest.TOWER_BRIEFS, 0, 2),
    Table("twelfth briefs, mended after their first reading", tower_forest.FOREST_BRIEFS, 0, 0),
    Table("thirteenth briefs, mended after their first reading", theatre_meadow.THEATRE_BRIEFS, 0, 5),
    Table("fourteenth briefs, mended after their first reading", theatre_meadow.MEADOW_BRIEFS, 1, 2),
    Table("fifteenth briefs, mended after their first reading", canal_orbit.CANAL_BRIEFS, 2, 0),
    Table("sixteenth briefs, mended after their first reading", canal_orbit.ORBIT_BRIEFS, 1, 5),
    Table("seventeenth briefs, mended after their first reading", salt_school.SALT_BRIEFS, 0, 2),
    Table("eighteenth briefs, mended after their first reading", salt_school.SCHOOL_BRIEFS, 3, 3),
    Table("nineteenth briefs, mended after their first reading", lighthouse_museum.LIGHTHOUSE_BRIEFS, 1, 0),
    Table("twentieth briefs, mended after their first reading", lighthouse_museum.MUSEUM_BRIEFS, 2, 0),
    Table("shots of a film, mended after their first reading", city_garden.FILM, 1, 0),
    Table("panels of a comic, mended after their first reading", city_garden.COMIC, 0, 1),
    Table("twenty-third briefs, mended after their first reading", alp_hospital.ALP_BRIEFS, 1, 4),
    Table("twenty-fourth briefs, mended after their first reading", alp_hospital.HOSPITAL_BRIEFS, 0, 1),
    Table("twenty-fifth briefs, mended after their first reading", train_kitchen.TRAIN_BRIEFS, 0, 5),
    Table("twenty-sixth briefs, mended after their first reading", train_kitchen.KITCHEN_BRIEFS, 1, 0),
    Table("twenty-seventh briefs, mended after their first reading", reef_attic.REEF_BRIEFS, 1, 2),
    Table("twenty-eighth briefs, mended after their first reading", reef_attic.HOUSE_BRIEFS, 3, 2),
    Table("twenty-ninth briefs, mended after their first reading", pitch_factory.PITCH_BRIEFS, 2, 4),
    Table("thirtieth briefs, mended after their first reading", pitch_factory.FACTORY_BRIEFS, 3, 5),
    Table("thirty-first briefs, numbers set on them after their first reading", island_detective.ISLAND_BRIEFS, 2, 5),
    Table(
        "thirty-second briefs, numbers set on them after their first reading", island_detective.DETECTIVE_BRIEFS, 1, 4
    ),
    Table("thirty-third briefs, numbers set on them after their first reading", circus_moon.WINTER_BRIEFS, 3, 8),
    Table("thirty-fourth briefs, numbers set on them after their first reading", circus_moon.MOON_BRIEFS, 4, 7),
    Table("thirty-fifth briefs, looked at after their first reading", plain.SHIP_BRIEFS, 1, 0),
    Table("thirty-sixth briefs, the other half, read once", plain.SHIP_KEPT, 5, 6),
)
