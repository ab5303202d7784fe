"""Print the share of test lines among all lines of code."""

from __future__ import annotations

import subprocess
from pathlib import Path

ENDINGS = {".py", ".ts", ".svelte", ".sh", ".css"}
GENERATED = {"frontend/src/api/schema.d.ts", "juxtaform/client/api.py"}


def main() -> None:
    listed = subprocess.run(
        ["git", "ls-files", "-co", "--exclude-standard"], capture_output=True, text=True, check=True
    )
    files = [Path(p) for p in listed.stdout.splitlines()]
    code = [p for p in files if (p.suffix in ENDINGS or p.parts[0] == "bin") and str(p) not in GENERATED and p.exists()]
    tests = [p for p in code if p.parts[0] == "tests" or p.name.endswith(".test.ts") or "testing" in p.parts]
    lines = {p: sum(1 for line in p.read_text().splitlines() if line.strip()) for p in code}
    total, tested = sum(lines.values()), sum(lines[p] for p in tests)
    print(f"{tested} of {total} lines of code are tests: {100 * tested / total:.0f} %")


if __name__ == "__main__":
    main()
