"""Compiling: only what changed is made anew, and sections survive a restart."""

from pathlib import Path

from heliograph.ipc.sections import SectionStore, content_hash
from heliograph.render.compiled import compile_show
from tests.engine.shows import grid, lamps, line, look, output


def sections(**changes: object) -> dict[str, object]:
    return {
        "rig": lamps(16),
        "matrix:M": grid(4, 4),
        "look:L": look(line("a", "Flat")),
        "outputs": {"outputs": [output()]},
        **changes,
    }


def test_a_moved_slider_recompiles_one_look(tmp_path: Path) -> None:
    first = compile_show(sections(), tmp_path)  # type: ignore[arg-type]
    moved = compile_show(sections(**{"look:L": look(line("a", "Flat", opacity=0.5))}), tmp_path, first)  # type: ignore[arg-type]
    assert moved.rig is first.rig
    assert moved.emission is first.emission
    assert moved.matrices["M"] is first.matrices["M"]
    assert moved.looks["L"][0].line.opacity == 0.5


def test_a_moved_fixture_recompiles_what_stands_on_it(tmp_path: Path) -> None:
    first = compile_show(sections(), tmp_path)  # type: ignore[arg-type]
    other = compile_show(sections(rig=lamps(16, start=101)), tmp_path, first)  # type: ignore[arg-type]
    assert other.matrices["M"] is not first.matrices["M"]
    assert other.looks["L"][0].matrix is other.matrices["M"]


def test_outputs_without_fixtures_are_universes_too(tmp_path: Path) -> None:
    show = compile_show(sections(outputs={"outputs": [output(first_universe=9, count=3)]}), tmp_path)  # type: ignore[arg-type]
    assert show.universes.tolist() == [1, 9, 10, 11]


def test_cells_of_fixtures_that_are_gone_are_left_out(tmp_path: Path) -> None:
    show = compile_show(sections(rig=lamps(10)), tmp_path)  # type: ignore[arg-type]
    assert show.matrices["M"].canvas.count == 10


def test_the_store_reads_back_only_what_is_whole(tmp_path: Path) -> None:
    store = SectionStore(tmp_path)
    parts = sections()
    manifest = {key: content_hash(value) for key, value in parts.items()}  # type: ignore[arg-type]
    assert len(store.missing(manifest)) == 4
    for value in parts.values():
        store.add(value)  # type: ignore[arg-type]
    store.use(manifest, 7)
    store.keep()
    again = SectionStore(tmp_path)
    assert again.load()
    assert (again.revision, again.sections(manifest)) == (7, parts)
    next(tmp_path.glob("*.section")).write_bytes(b"{}")
    assert not SectionStore(tmp_path).load()
