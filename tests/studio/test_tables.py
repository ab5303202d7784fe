"""Tables come in whole or not at all, whatever their size; cells that a spreadsheet would run go out as text and come back."""

import csv
import io

import pytest

from juxtaform.limits import MOST_TABLE_ROWS
from juxtaform.studio import plan, projects, tables, threads
from juxtaform.studio.workspace import NotPossible
from tests.conftest import plan_from, rows, statements

FORMULAS = (
    "=1+1",
    "+1",
    "-1 crab",
    "@SUM(A1)",
    "'=1+1",
    "''@x",
    "＝1",
    "'tis the tide",
    "two - one",
    '=HYPERLINK("http://x","y")',
)


@pytest.fixture
def told(ws, project):
    plan_from(ws, project, "# One\nAda came in.\n\n# Two\nAda sat down.")
    threads.make(ws, project, "character", "Ada")
    for name in ("Paper", "Ink"):
        threads.make(ws, project, "style", name)
    return project


def state(ws, project):
    snapshot = projects.snapshot(ws, project).rows
    return {t: sorted((r for r in snapshot[t]), key=lambda r: r["id"]) for t in ("scene", "shot", "bead")}


@pytest.mark.parametrize("cell", FORMULAS)
@pytest.mark.parametrize("form", [tables.as_csv, tables.as_tabs])
def test_no_cell_is_run_by_a_spreadsheet_and_each_comes_back_as_it_was(ws, told, cell, form):
    shot = rows(ws, told, "shot")[0]["id"]
    plan.edit_shot(ws, told, shot, {"shows": cell, "notes": f"a\n{cell}"}, None)
    data = form(ws, told)
    text = data if isinstance(data, str) else data.decode("utf-8-sig")
    cells = list(csv.reader(io.StringIO(text, newline=""), delimiter="\t" if form is tables.as_tabs else ","))
    assert not [c for row in cells for c in row if c[:1] in set("=+-@\t\r＝＋－＠")]
    before = state(ws, told)
    changed = tables.take_in(ws, told, data)
    assert changed.version == changed.since
    assert state(ws, told) == before


def table(count, prefix="new"):
    lines = ["Scene,Shows,Characters,Styles,Length"]
    lines += [f"Scene {i // 40},{prefix} {i},Ada,Paper,{1 + i % 5}" for i in range(count)]
    return "\n".join(lines)


def test_ten_times_the_rows_ask_the_database_hardly_more_often(ws, told):
    small = statements(ws, lambda: tables.take_in(ws, told, table(100)))
    large = statements(ws, lambda: tables.take_in(ws, told, table(1000, "more")))
    assert large < 12 * small
    assert large < 400
    assert len(rows(ws, told, "shot")) == 1102
    positions = [(s["scene_id"], s["position"]) for s in rows(ws, told, "shot")]
    assert len(set(positions)) == len(positions)
    projects.undo(ws, told)
    assert len(rows(ws, told, "shot")) == 102


@pytest.mark.parametrize(
    ("lines", "message"),
    [
        ("Shows,Styles\nx,Paper; Ink", "Line 2, column “Styles”: a shot has one style"),
        ("Shows,Characters\nx,Eve", "Line 2: there is no character “Eve”"),
        ("Shows\nfine\n" + "y" * 17_000, "Line 3, column “Shows”"),
        ("Scene,Shows\n" + "s" * 301 + ",x", "Line 2, column “Scene”"),
        ("Shows,Seed\nx,2147483648", "Line 2, column “Seed”"),
        ("Shows,Length\nx,nan", "Line 2, column “Length”"),
        ("Shows,Don'ts\nx," + "d" * 99, "Line 2, column “Don'ts”"),
        ("Shows,Id\nx,0123", "Line 2: there is no shot with the id 0123"),
        ("Shows\n" + "x\n" * (MOST_TABLE_ROWS + 1), "more than 20,000 rows"),
        ('Shows\n"never ended', "Line"),
    ],
)
def test_a_table_that_cannot_be_taken_in_whole_changes_nothing(ws, told, lines, message):
    before = state(ws, told)
    with pytest.raises(NotPossible, match=message):
        tables.take_in(ws, told, lines)
    assert state(ws, told) == before


def test_rows_move_to_scenes_in_the_order_of_the_table_and_empty_scenes_go(ws, told):
    first, second = rows(ws, told, "shot")
    data = f"Id,Scene,Shows\n{first['id']},Elsewhere,a\n,Elsewhere,b\n{second['id']},Elsewhere,c"
    tables.take_in(ws, told, data)
    assert [s["title"] for s in rows(ws, told, "scene")] == ["Elsewhere"]
    assert [s["shows"] for s in rows(ws, told, "shot")] == ["a", "b", "c"]
    projects.undo(ws, told)
    assert [s["title"] for s in rows(ws, told, "scene")] == ["One", "Two"]


def named(ws, project, shot):
    by = {t["id"]: t["name"] for t in rows(ws, project, "thread")}
    return sorted(by[b["thread_id"]] for b in rows(ws, project, "bead") if b["shot_id"] == shot["id"])


def test_names_that_are_no_threads_and_unknown_columns_are_asked_about_and_then_made_or_left_out(ws, told):
    table = (
        "Shows\tCharacters\tSettings\tHue\nThey bake.\tAda, Eve and Mo\tKitchen\tred\nThey sleep.\tmo\tKitchen\tblue"
    )
    before = state(ws, told)
    with pytest.raises(tables.TableAsks, match=r"no column “Hue”.*no character “Eve”.*no setting “Kitchen”") as asked:
        tables.take_in(ws, told, table)
    assert asked.value.offer == "Take it in: make threads of these 3 and leave out that column"
    assert state(ws, told) == before
    tables.take_in(ws, told, table, mend=True)
    kinds = {t["name"]: t["kind"] for t in rows(ws, told, "thread")}
    assert (kinds["Eve"], kinds["Mo"], kinds["Kitchen"]) == ("character", "character", "setting")
    [bake] = [s for s in rows(ws, told, "shot") if s["shows"] == "They bake."]
    [sleep] = [s for s in rows(ws, told, "shot") if s["shows"] == "They sleep."]
    assert named(ws, told, bake) == ["Ada", "Eve", "Kitchen", "Mo"]
    assert named(ws, told, sleep) == ["Kitchen", "Mo"]
    projects.undo(ws, told)
    assert state(ws, told) == before
    assert "Eve" not in {t["name"] for t in rows(ws, told, "thread")}


def test_a_name_that_holds_a_comma_is_one_where_a_thread_has_it(ws, told):
    threads.make(ws, told, "character", "Eve, the cook")
    tables.take_in(ws, told, 'Shows,Characters\nShe bakes.,"Eve, the cook"')
    [shot] = [s for s in rows(ws, told, "shot") if s["shows"] == "She bakes."]
    assert named(ws, told, shot) == ["Eve, the cook"]


def test_a_name_too_long_for_a_thread_is_told_with_its_line(ws, told):
    with pytest.raises(NotPossible, match="Line 2, column “Characters”"):
        tables.take_in(ws, told, f"Shows\tCharacters\nx\t{'y' * 400}", mend=True)
