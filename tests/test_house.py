"""What holds for the whole checkout: shipped assets are the built ones, and no file hides an import or a host."""

import re
import shutil
import subprocess
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
DIST = ROOT / "iron_bucket" / "web" / "static" / "dist"


def test_shipped_assets_are_up_to_date(tmp_path):
    subprocess.run([ROOT / "bin" / "assets", tmp_path], check=True, capture_output=True, timeout=120)
    assert sorted(path.name for path in DIST.iterdir()) == sorted(path.name for path in tmp_path.iterdir())
    for built in tmp_path.iterdir():
        assert built.read_bytes() == (DIST / built.name).read_bytes(), f"{built.name} is not what bin/assets builds"


@pytest.mark.parametrize("lock", ["requirements.lock", "requirements-test.lock", "package-lock.json"])
def test_locks_hold_no_address(lock):
    assert "://" not in (ROOT / lock).read_text()


def test_templates_keep_to_the_policy():
    for path in (ROOT / "iron_bucket" / "web").rglob("*.html"):
        text = path.read_text()
        assert not re.search(r"\sstyle=|\son[a-z]+=|<script>|hx-on", text), path
        assert not re.search(r"https?://", text.replace("http://www.w3.org", "")), path
        assert text.startswith("{#"), f"{path} does not say what it needs"


def test_screenshots_stay_few_and_are_linked():
    shots = sorted(path.name for path in (ROOT / "docs" / "screenshots").glob("*.png"))
    readme = (ROOT / "README.md").read_text()
    assert 0 < len(shots) < 20
    assert all(f"docs/screenshots/{name}" in readme for name in shots)


def test_the_commands_are_sound_shell():
    for command in ("demo", "test", "iron-bucket", "assets", "benchmark", "prepare"):
        assert subprocess.run([shutil.which("bash"), "-n", ROOT / "bin" / command], check=False).returncode == 0


def test_every_test_that_security_names_is_there():
    named = re.findall(r"`(tests/[\w/]+\.py)::(\w+)`", (ROOT / "docs" / "security.md").read_text())
    assert len(named) > 40
    missing = [each for each in named if f"def {each[1]}(" not in (ROOT / each[0]).read_text()]
    assert not missing
