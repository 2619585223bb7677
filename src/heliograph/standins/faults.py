"""What can be wrong with a rig, put into a simulated node's hang list: wiring, order, number, a dead pixel, a mode.

A fault is {"fault": one of FAULTS, ...}; runs of the hang list are counted from 1:
exchanged {"runs": [3, 4]}, reversed {"run": 5}, order {"run": 5, "order": "GRB"} (the same channels otherwise),
universe {"by": 1} (listens so many too high), dead {"run": 5, "pixel": 23} (dark from there on),
mode {"run": 5, "order": "DRGB"} (another channel list than the show believes).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from heliograph.core.errors import InputError

FAULTS = ("exchanged", "reversed", "order", "universe", "dead", "mode")
PLACE = ("x", "y", "dx", "dy")

Data = dict[str, Any]


def with_faults(hang: Mapping[str, Any], faults: Sequence[Mapping[str, Any]]) -> Data:
    """The hang list (as read from its file) as it is with the faults; InputError says which one cannot be."""
    made: Data = {**hang, "listens": list(hang["listens"]), "lamps": [dict(run) for run in hang["lamps"]]}
    for number, fault in enumerate(faults, start=1):
        try:
            _put(made, fault)
        except (KeyError, TypeError, ValueError, IndexError) as error:
            raise InputError(
                f"Fault {number} cannot be put in: {error!r}.",
                where="faults",
                repair=f"Faults are {', '.join(FAULTS)}; runs count from 1 to {len(made['lamps'])}.",
            ) from error
    return made


def _put(made: Data, fault: Mapping[str, Any]) -> None:
    match fault["fault"]:
        case "exchanged":
            a, b = (_run(made, number) for number in fault["runs"])
            places = [{key: run.get(key, _default(key)) for key in PLACE} for run in (a, b)]
            a.update(places[1])
            b.update(places[0])
        case "reversed":
            run = _run(made, fault["run"])
            steps = int(run.get("count", 1)) - 1
            for axis in ("x", "y"):
                by = int(run.get(f"d{axis}", _default(f"d{axis}")))
                run[axis], run[f"d{axis}"] = int(run[axis]) + by * steps, -by
        case "order":
            run = _run(made, fault["run"])
            if sorted(fault["order"]) != sorted(run.get("order", "RGB")):
                raise ValueError(f"'{fault['order']}' is no other order of {run.get('order', 'RGB')}")
            run["order"] = fault["order"]
        case "universe":
            made["listens"] = [_moved(key, int(fault["by"])) for key in made["listens"]]
            for run in made["lamps"]:
                for name in ("universe", "dimmer_universe"):
                    if name in run:
                        run[name] = _moved(run[name], int(fault["by"]))
        case "dead":
            run = _run(made, fault["run"])
            if not 1 <= int(fault["pixel"]) <= int(run.get("count", 1)):
                raise ValueError(f"the run has no pixel {fault['pixel']}")
            run["count"] = int(fault["pixel"]) - 1
        case "mode":
            _run(made, fault["run"])["order"] = fault["order"]
        case other:
            raise ValueError(f"there is no fault '{other}'")


def _run(made: Data, number: int) -> Data:
    if not 1 <= int(number) <= len(made["lamps"]):
        raise ValueError(f"there is no run {number}")
    run: Data = made["lamps"][int(number) - 1]
    return run


def _default(key: str) -> int:
    return 1 if key == "dx" else 0


def _moved(key: str, by: int) -> str:
    protocol, number = key.split()
    return f"{protocol} {int(number) + by}"
