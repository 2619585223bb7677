"""`./heliograph bench [rendering] [effects] [moving] [cues] [clips] [web_load] [preview] [rig] [survival] [right_again]
[free_placement] [gesture] [touching] [drawing] [feed] [incoming] [large_matrix] [crowd] [faults] [soak --minutes N]
[alone --minutes N]`: all but `alone`, `faults` and `soak`, which take long, or the named."""

from __future__ import annotations

import sys

from bench import (
    alone,
    clips,
    crowd,
    cues,
    drawing,
    effects,
    faults,
    feed,
    free_placement,
    gesture,
    incoming,
    large_matrix,
    moving,
    preview,
    rendering,
    rig,
    right_again,
    soak,
    survival,
    touching,
    web_load,
)
from bench.report import Report

PARTS = {
    "rendering": ("Rendering and sending by the engine process", rendering.run),
    "effects": ("Effects, blends and colour at 512 universes", effects.run),
    "moving": ("Heads that move and chases at 512 universes", moving.run),
    "cues": ("Cue lists at 512 universes", cues.run),
    "clips": ("Clips", clips.run),
    "web_load": ("The engine under web load", web_load.run),
    "preview": ("Live pictures in a real browser", preview.run),
    "rig": ("2,000 fixtures edited in a real browser", rig.run),
    "gesture": ("From the pointer to the lamp in a real browser", gesture.run),
    "touching": ("From a finger to the lamp on a page", touching.run),
    "drawing": ("Drawn and dragged in a real browser", drawing.run),
    "free_placement": ("Cells placed freely at 512 universes", free_placement.run),
    "feed": ("A live picture from the camera to the lamp", feed.run),
    "incoming": ("100 universes from the network", incoming.run),
    "large_matrix": ("A matrix of 50,000 squares in a real browser", large_matrix.run),
    "crowd": ("A hundred pages, ten of which read nothing", crowd.run),
    "alone": ("Web and database down while a list, a score and the clock go on", alone.run),
    "faults": ("Kills, hangs and full disks in random order", faults.run),
    "soak": ("Left alone", soak.run),
    "right_again": ("The engine killed while something moves", right_again.run),
    "survival": ("Processes killed while a look runs", survival.run),
}


LONG = ("alone", "faults", "soak")


def main() -> int:
    words = sys.argv[1:]
    if "--minutes" in words:
        at = words.index("--minutes")
        soak.minutes = float(words[at + 1])
        del words[at : at + 2]
    wanted = words or [name for name in PARTS if name not in LONG]
    unknown = [name for name in wanted if name not in PARTS]
    if unknown:
        print(f"There is no bench '{unknown[0]}'. There are: {', '.join(PARTS)}.", file=sys.stderr)
        return 2
    report = Report()
    for name in wanted:
        title, run = PARTS[name]
        report.title(title)
        run(report)
    if report.failed:
        print(f"\nOver their limit: {', '.join(report.failed)}")
    return 1 if report.failed else 0


if __name__ == "__main__":
    sys.exit(main())
