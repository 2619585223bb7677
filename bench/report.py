"""Rows of figures, each beside a limit measured or stated in the same run."""

from __future__ import annotations

from dataclasses import dataclass, field


@dataclass
class Report:
    """`holds` rows count as failed where the figure is over its limit."""

    failed: list[str] = field(default_factory=list)

    def title(self, text: str) -> None:
        print(f"\n{text}", flush=True)

    def row(self, name: str, value: float, unit: str, limit: float, against: str, holds: bool = False) -> None:
        ratio = f"{value / limit:6.2f} x" if limit else "        "
        broken = holds and value > limit
        mark = "OVER" if broken else "    "
        if broken:
            self.failed.append(name)
        print(f"  {name:<48}{value:>10.3f} {unit:<7}{ratio}  {limit:>9.3f} {against} {mark}", flush=True)

    def note(self, text: str) -> None:
        print(f"  ({text})", flush=True)
