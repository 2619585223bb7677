"""Documents that are checked against the program."""

from __future__ import annotations

import re
import subprocess
from pathlib import Path

from heliograph.api.describe import description
from heliograph.effects import EFFECTS

ROOT = Path(__file__).resolve().parents[1]


def test_the_typed_client_is_made_from_the_api_as_it_is() -> None:
    """Renew with: python -m heliograph.api.describe > docs/openapi.json; cd web; npm run client."""
    assert (ROOT / "docs" / "openapi.json").read_text() == description()


def test_every_effect_is_documented() -> None:
    text = (ROOT / "docs" / "effects.md").read_text()
    for effect in EFFECTS.values():
        assert f"## {effect.name}" in text
        for parameter in effect.parameters:
            assert f"`{parameter.name}`" in text


def test_every_fact_that_is_cited_has_its_section() -> None:
    text = (ROOT / "docs" / "standards.md").read_text()
    sections = set(re.findall(r"^(?:## |\*\*)(\d+(?:\.\d+)?)", text, re.MULTILINE))
    cited: dict[str, str] = {}
    for folder in ("src", "tests", "web/src", "bench"):
        for path in (ROOT / folder).rglob("*"):
            if path.suffix in (".py", ".ts", ".tsx"):
                cited |= dict.fromkeys(re.findall(r"\bstandards (\d+(?:\.\d+)?)", path.read_text()), path.name)
    assert len(cited) > 10
    assert {number: name for number, name in cited.items() if number not in sections} == {}


def test_links_of_the_readme_lead_somewhere() -> None:
    for link in re.findall(r"\]\(([^)#]+)\)", (ROOT / "README.md").read_text()):
        assert (ROOT / link).exists(), link


def test_lock_files_name_no_host() -> None:
    for name in ("requirements/runtime.lock", "requirements/test.lock"):
        assert "://" not in (ROOT / name).read_text(), name
    assert '"resolved"' not in (ROOT / "web" / "package-lock.json").read_text()


def test_the_launcher_is_a_program() -> None:
    done = subprocess.run([str(ROOT / "heliograph")], capture_output=True, text=True)
    assert done.returncode == 0
    assert "up " in done.stdout
