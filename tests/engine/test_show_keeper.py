"""Keeping the show that is handed over: only what is missing travels, nothing half adopted."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest

from heliograph.core.errors import InputError
from heliograph.ipc.messages.show import OfferManifest, ShowRequest
from heliograph.ipc.sections import SectionStore, content_hash
from heliograph.render.clips import ClipFrames
from heliograph.render.compiled import CompiledShow
from heliograph.render.show_keeper import ShowKeeper
from tests.asking import answered
from tests.engine.shows import grid, lamps, line, look


def sections(opacity: float = 1.0) -> dict[str, Any]:
    one = look(line("a", "Flat", opacity=opacity, ramp=[[0, 200, 100, 40]]))
    return {"rig": lamps(4), "matrix:M": grid(2, 2), "outputs": {"outputs": []}, "look:L": one}


class Kept:
    """A keeper with what it handed on."""

    def __init__(self, folder: Path) -> None:
        self.adopted: list[CompiledShow] = []
        self.keeper = ShowKeeper(SectionStore(folder), folder, lambda new, _last, _switched: self.adopted.append(new))

    def ask(self, kind: str, **message: Any) -> dict[str, Any]:
        return answered(lambda request, _fds: self.keeper.answer(request), {"do": kind, **message}, ShowRequest)

    def hand_over(self, parts: dict[str, Any], revision: int = 1) -> list[str]:
        """As the web process does; returns the hashes that were missing."""
        manifest = {key: content_hash(value) for key, value in parts.items()}
        missing: list[str] = self.ask("manifest", manifest=manifest)["missing"]
        self.ask("sections", sections=[v for k, v in parts.items() if manifest[k] in missing])
        self.ask("adopt", manifest=manifest, revision=revision)
        return missing

    def opacity(self) -> float:
        return self.keeper.show.looks["L"][0].line.opacity


@pytest.fixture
def kept(tmp_path: Path) -> Kept:
    return Kept(tmp_path)


def test_only_what_changed_travels_and_is_compiled_again(kept: Kept) -> None:
    assert len(kept.hand_over(sections())) == 4
    first = kept.keeper.show
    missing = kept.hand_over(sections(0.5), 2)
    assert missing == [content_hash(sections(0.5)["look:L"])]
    assert kept.opacity() == 0.5
    assert kept.keeper.show.rig is first.rig
    assert kept.keeper.show.matrices["M"] is first.matrices["M"]
    assert len(kept.adopted) == 2


def test_the_same_show_of_a_later_revision_is_not_compiled_again(kept: Kept, tmp_path: Path) -> None:
    kept.hand_over(sections(), 1)
    first = kept.keeper.show
    kept.hand_over(sections(), 2)
    assert kept.keeper.show is first
    assert len(kept.adopted) == 1
    assert kept.ask("manifest", manifest={})["revision"] == 2
    kept.keeper.answer(OfferManifest(manifest={}))
    again = SectionStore(tmp_path)
    assert again.load()
    assert again.revision == 2


def test_a_show_whose_sections_have_not_arrived_is_not_adopted(kept: Kept) -> None:
    kept.hand_over(sections())
    with pytest.raises(InputError, match="1 sections have not arrived"):
        kept.ask("adopt", manifest={"rig": "0" * 32}, revision=2)
    assert kept.opacity() == 1.0
    assert len(kept.adopted) == 1


def test_a_restart_finds_the_last_show_on_disk(kept: Kept, tmp_path: Path) -> None:
    kept.hand_over(sections(0.7), 5)
    again = Kept(tmp_path)
    assert again.keeper.load()
    assert again.opacity() == 0.7
    assert again.keeper.store.revision == 5
    assert again.adopted == []
    assert again.keeper.show.tag == kept.keeper.show.tag
    assert not Kept(tmp_path / "elsewhere").keeper.load()


def test_a_clip_that_arrives_later_is_opened(kept: Kept) -> None:
    clip = line("a", "", paints="clip", clip="c", speed={"value": 1, "unit": "times"})
    parts = {**sections(), "clip:c": {"id": "c", "content": "c", "suffix": ".mp4"}, "look:L": look(clip)}
    kept.hand_over(parts)
    kept.keeper.open_clips()  # nothing there yet, and no harm done
    [one] = kept.keeper.show.looks["L"]
    assert isinstance(one.clip, ClipFrames)
    assert not one.clip.is_open
