"""What is painted at a moment: each run with its lines as hands hold them, its level and its tint."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from heliograph.core.colour.tinting import NO_TINT
from heliograph.core.errors import InputError
from heliograph.core.look.line import CLIP, ClipLine
from heliograph.core.look.moved import moved_line
from heliograph.core.playing.cues import BY_HAND
from heliograph.core.playing.list_run import Kept, ListRun
from heliograph.core.playing.lists import next_of
from heliograph.core.playing.run import Run
from heliograph.core.playing.score_run import ScoreRun
from heliograph.core.playing.state import HeldLine, Painting, Record
from heliograph.render.compiled import CompiledShow, compile_look, with_chosen_clip
from heliograph.render.compiled_line import CompiledLine, linked
from heliograph.render.mixing import CueMixed, ListMixed, Playing, Stack

Looks = Mapping[str, Sequence[CompiledLine]]


class Resolver:
    """Keeps what it worked out until something is another; what it answers hangs on its arguments alone."""

    def __init__(self) -> None:
        self._held: dict[str, tuple[CompiledLine, HeldLine, CompiledLine]] = {}
        self._masked: dict[str, tuple[CompiledLine, CompiledLine, CompiledLine]] = {}
        self._unseen: dict[str, tuple[CompiledShow, Record, Sequence[CompiledLine]]] = {}
        self._frozen: tuple[CompiledShow, Painting, Looks] | None = None

    def stack(self, show: CompiledShow, painting: Painting) -> Stack:
        """Everything that plays at a moment, in the order in which it lies over one another: by hand and lists, by
        their priority, and those that began later over earlier ones."""
        looks = show.looks if painting.looks is None else self._kept_looks(show, painting)
        if self._unseen and not painting.blind:
            self._unseen.clear()
        found: list[tuple[tuple[int, int], Playing | ListMixed]] = [
            ((BY_HAND, run.since_ns), self._playing(show, painting, looks, run)) for run in painting.runs
        ]
        for key, one in painting.lists.items():
            known = show.ground.lists.get(key)
            order = BY_HAND if known is None else known.priority, one.since_ns
            found.extend((order, each) for each in self._list(show, painting, looks, one))
        for name, score in painting.scores.items():
            piece = show.ground.scores.get(name)
            order = BY_HAND if piece is None else piece.priority, score.since_ns
            found.extend((order, each) for each in self._score(show, painting, looks, score))
        if painting.lists or painting.scores:
            found.sort(key=lambda each: each[0])
        return [one for _, one in found]

    def _list(
        self, show: CompiledShow, painting: Painting, looks: Looks, one: ListRun
    ) -> Sequence[Playing | ListMixed]:
        """A list's cues by their weights; the looks of one that stands alone and full are laid by themselves, which is
        the same picture and costs no more than they do."""
        cues = []
        for cue, weight, played, keys, kept in one.weights(painting.time_ns, painting.beat):
            beneath, upon = self._kept_of(show, painting, looks, one, kept)
            playing = beneath
            for each, key in zip(played, keys, strict=True):
                run = one.runs.get(key)
                if run is not None:
                    own = self._playing(show, painting, looks, run)
                    playing.append(own._replace(level=own.level * each.level, group=each.group))
            playing.extend(upon)
            cues.append(CueMixed(cue, weight, playing))
        if one.ready and cues:
            cues[-1].playing.extend(self._ahead(show, painting, looks, one))
        level = one.level.at(painting.time_ns)
        if len(cues) == 1 and cues[0].weight >= 1.0 and level >= 1.0:
            return cues[0].playing
        return [ListMixed(one.of, cues, level)] if cues else []

    def _score(
        self, show: CompiledShow, painting: Painting, looks: Looks, one: ScoreRun
    ) -> Iterator[Playing | ListMixed]:
        """What sounds of a score: each entry over its stave's group, mixed with the one that it takes over from."""
        beat, level = one.position(painting.time_ns, painting.beat), one.level_at(painting.time_ns)
        taken = {voice.before: voice.key for voice in one.voices if voice.before}
        mixed: dict[str, CueMixed] = {}
        for voice in one.voices:
            weight = voice.weight(beat)
            run = one.runs.get(voice.key)
            if run is None or weight <= 0.0:
                continue
            own = self._playing(show, painting, looks, run)
            own = own._replace(level=own.level * voice.level, group=voice.group)
            if weight >= 1.0 and level >= 1.0:
                yield own
                continue
            mixed[voice.key] = CueMixed(voice.key, weight, [own])
            if taken.get(voice.key) in {each.key for each in one.voices} and beat >= voice.end:
                continue  # it is laid together with what follows it
            before = mixed.get(voice.before)
            yield ListMixed(one.of, [mixed[voice.key]] if before is None else [before, mixed[voice.key]], level)

    def _kept_of(
        self, show: CompiledShow, painting: Painting, looks: Looks, one: ListRun, kept: Sequence[Kept]
    ) -> tuple[list[Playing], list[Playing]]:
        """What a cue keeps of those before it, beneath its own; and what stands ready for the next, upon that."""
        found: tuple[list[Playing], list[Playing]] = [], []
        for each in kept:
            run = one.runs.get(each.key)
            if run is not None:
                found[each.among is not None].append(self._kept(show, painting, looks, run, each))
        return found

    def _kept(self, show: CompiledShow, painting: Painting, looks: Looks, run: Run, kept: Kept) -> Playing:
        """What a cue before set of attributes, and nothing that it painted."""
        own = self._playing(show, painting, looks, run)
        lines = [line for line in own.lines if line.ready is not None]
        return own._replace(
            lines=lines, level=own.level * kept.look.level, group=kept.look.group, home=kept.home, among=kept.among
        )

    def _ahead(self, show: CompiledShow, painting: Painting, looks: Looks, one: ListRun) -> Iterator[Playing]:
        """What the next cue sets of fixtures that are dark, but for light: they stand so before it lights them."""
        known = show.ground.lists.get(one.of)
        coming = next_of(one, known) if known else None
        for each in coming.looks if coming else ():
            run = Run(f"{one.of}:ready:{each.look}", each.look, one.went_ns)
            own = self._playing(show, painting, looks, run)
            lines = [line for line in own.lines if line.ready is not None]
            yield own._replace(lines=lines, level=own.level * each.level, group=each.group, among=one.ready)

    def _playing(self, show: CompiledShow, painting: Painting, looks: Looks, run: Run) -> Playing:
        there = painting.looks is not None or run.look in show.records  # what is deleted is dark, seen or not
        if there and run.look in painting.blind:
            lines = self._blind(show, run.look, painting.blind[run.look])
        else:
            lines = self.lines(looks.get(run.look, ()), painting.held, show)
        return Playing(lines, run, painting.level_of(run), painting.look_tints.get(run.look, NO_TINT))

    def _blind(self, show: CompiledShow, look: str, record: Record) -> Sequence[CompiledLine]:
        """A look as it was stored, on the matrices there are now."""
        known = self._unseen.get(look)
        if known is None or known[0] is not show or known[1] is not record:
            same = show.records.get(look) == record
            lines = show.looks.get(look, ()) if same else compile_look(show, dict(record))
            known = self._unseen[look] = (show, record, lines)
        return known[2]

    def lines(
        self, lines: Sequence[CompiledLine], held: Mapping[str, HeldLine], show: CompiledShow
    ) -> Sequence[CompiledLine]:
        """Lines with what hands hold of them."""
        if not held:
            if self._held:
                self._held.clear()
                self._masked.clear()
            return lines
        moved = [self._line(one, held[one.line.id], show) if one.line.id in held else one for one in lines]
        if any(one.line.through is not None and one.line.through.line in held for one in moved):
            by_id = {one.line.id: one for one in moved}
            return [self._through(one, by_id) for one in moved]
        return moved

    def _through(self, one: CompiledLine, by_id: Mapping[str, CompiledLine]) -> CompiledLine:
        """The line painted through another as a hand holds that one."""
        through = one.line.through
        source = None if through is None else by_id.get(through.line)
        if source is None or one.mask_from is source:
            return one
        known = self._masked.get(one.line.id)
        if known is None or known[0] is not one or known[1] is not source:
            known = self._masked[one.line.id] = (one, source, linked([one], by_id)[0])
        return known[2]

    def _line(self, one: CompiledLine, held: HeldLine, show: CompiledShow) -> CompiledLine:
        known = self._held.get(one.line.id)
        chosen = held.values.get(CLIP)
        gone = chosen is not None and chosen["id"] not in show.clips
        if known is None or known[0] is not one or known[1] is not held or gone:
            try:
                moved = one.moved(moved_line(one.line, held.values))
            except (
                InputError,
                TypeError,
            ):  # the line became another kind of line under the hand: it is as it is stored
                moved = one
            if isinstance(moved.line, ClipLine) and CLIP in held.values:
                moved = with_chosen_clip(moved, show) or one
            known = self._held[one.line.id] = (one, held, moved)
        return known[2]

    def _kept_looks(self, show: CompiledShow, painting: Painting) -> Looks:
        """Looks as they were when the picture was frozen, on the matrices there are now."""
        if self._frozen is None or self._frozen[0] is not show or self._frozen[1] is not painting:
            assert painting.looks is not None
            looks = {
                look: show.looks[look] if show.records.get(look) == record else compile_look(show, dict(record))
                for look, record in painting.looks.items()
            }
            looks |= {key: one for key, one in show.looks.items() if key not in show.records}  # those of scores
            self._frozen = show, painting, looks
        return self._frozen[2]
