"""What preflight tells of plain words about two children in a yard, a girl, a fox and a grandmother, and a school, in as many ways as people say them."""

import pytest

from tests.briefs.plain import rows_of


@pytest.mark.parametrize(
    "row", rows_of("yard", "wood", "school", "alp", "moon"), ids=lambda row: f"{row.words} ({row.attached})"
)
def test_preflight_tells_what_is_so(row):
    assert {f.kind for f in row.findings()} == row.expected
