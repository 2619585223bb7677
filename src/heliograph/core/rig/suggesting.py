"""What may stand next in the typed line that adds fixtures: profiles, or modes of the one that stands there already.

What is typed inexactly is never taken for something: the nearest are offered first.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher
from typing import Any

from heliograph.core.rig.plain_line import Described, described, fitting, names_of, singular, split_count, with_commas

MOST = 24
MOST_OF_ALL = 7
"""While nothing is typed, one line of them: the library is long, and typing finds the rest."""

NEAR = 5
ALIKE = 0.45
"""From here on a name is near enough to what was typed to be offered."""

FIRST = re.compile(r"^\s*(?:(\d+)\s*[x×*]?\s+)?(.*?)\s*$")


@dataclass(frozen=True, slots=True)
class Suggestion:
    """What stands on it, and the line it makes. `makes`: the profile that has to be made for it first."""

    label: str
    text: str
    makes: Described | None = None


@dataclass(frozen=True, slots=True)
class Suggestions:
    """`of`: what they are ("profiles", "modes of RGB lamp"), "" where there is nothing to suggest."""

    of: str = ""
    items: tuple[Suggestion, ...] = ()


def suggest(text: str, profiles: Sequence[Mapping[str, Any]]) -> Suggestions:
    """`profiles` as they are shown ({maker, name, kind, modes of {name, footprint, cells, emitters}}), those that are
    the most likely first."""
    first, *rest = with_commas(text, names_of(profiles)).split(",")
    found = FIRST.match(first)
    count, wanted = (found[1] or "1", found[2]) if found else ("1", "")
    whole = [one for one in profiles if one["name"].lower() in (wanted.lower(), singular(wanted.lower()))]
    if len(whole) == 1:
        return _of_modes(whole[0], first.strip(), rest)
    made = _of_words(*split_count(first), rest, profiles)
    if made is not None:
        return made
    if rest and not wanted:
        return Suggestions()
    fitting = [one["name"] for one in profiles if fits(one, wanted)]
    of = "profiles"
    if not fitting:
        fitting, of = nearest(wanted, [one["name"] for one in profiles]), "nearest profiles"
    tail = "".join(f",{part}" for part in rest)
    names = fitting[: MOST if wanted else MOST_OF_ALL]
    items = tuple(Suggestion(name, f"{count} x {name}{tail}") for name in names)
    return Suggestions(of if items else "", items)


def _of_words(
    count: str, wanted: str, rest: Sequence[str], profiles: Sequence[Mapping[str, Any]]
) -> Suggestions | None:
    """What fits what the words describe, and what would be made of them; None where they describe nothing."""
    said = described(wanted)
    if said is None:
        return None
    tail = "".join(f",{part}" for part in rest)
    fits = [
        Suggestion(f"{profile}, {mode}", f"{count} x {profile}, mode {mode}{tail}")
        for profile, mode in fitting(said, profiles)[:MOST_OF_ALL]
    ]
    make = Suggestion(f"make it: {said.says}", f"{count} x {said.name}{tail}", said)
    return Suggestions("what fits" if fits else "no profile fits", (*fits, make))


def _of_modes(profile: Mapping[str, Any], first: str, rest: Sequence[str]) -> Suggestions:
    names = [str(mode["name"]) for mode in profile["modes"]]
    said = next((n for n, part in enumerate(rest) if part.strip().lower().startswith("mode ")), None)
    if said is None:
        if len(names) < 2:
            return Suggestions()
        tail = "".join(f",{part}" for part in rest)
        items = tuple(Suggestion(name, f"{first}, mode {name}{tail}") for name in names[:MOST])
        return Suggestions(f"modes of {profile['name']}", items)
    if exact_mode(rest, said, names):
        return Suggestions()
    wanted = rest[said].strip()[len("mode ") :].strip()
    near = nearest(wanted, names) or names[:NEAR]
    parts = ([*rest[:said], f" mode {name}", *rest[said + 1 :]] for name in near)
    items = tuple(Suggestion(name, ",".join([first, *line])) for name, line in zip(near, parts, strict=True))
    return Suggestions(f"nearest modes of {profile['name']}", items)


def exact_mode(parts: Sequence[str], at: int, names: Iterable[str]) -> tuple[str, int] | None:
    """The mode that the part `mode ...` at `at` names exactly, and how many parts it takes: names of modes may hold
    commas, as `10 RGBW, dimmer and strobe` does. None where there is none."""
    plain = {", ".join(part.strip().lower() for part in name.split(",")): name for name in names}
    for end in range(len(parts), at, -1):
        said = ", ".join(part.strip() for part in parts[at:end])[len("mode ") :].strip().lower()
        if said in plain:
            return plain[said], end - at
    return None


def nearest(wanted: str, names: Iterable[str]) -> list[str]:
    """Names like what was typed, the likest first: those that begin with it, hold it, or are spelled alike."""
    typed = wanted.lower()

    def likeness(name: str) -> float:
        lower = name.lower()
        if typed and lower.startswith(typed):
            return 3.0 - len(lower) / 1000
        if typed and typed in lower:
            return 2.0 - len(lower) / 1000
        begins = SequenceMatcher(None, typed, lower[: len(typed)]).ratio()
        return max(SequenceMatcher(None, typed, lower).ratio(), 0.9 * begins)

    ranked = sorted(((likeness(name), name) for name in names), key=lambda pair: -pair[0])
    return [name for like, name in ranked[:NEAR] if like >= ALIKE]


def fits(profile: Mapping[str, Any], text: str) -> bool:
    """Whether a profile is what the words ask for: parts of its name, its kind, emitters, or a number of channels."""
    says = f"{profile['maker']} {profile['name']} {profile['kind']}".lower()
    return all(word in says or _in_a_mode(profile, word) for word in text.lower().split())


def _in_a_mode(profile: Mapping[str, Any], word: str) -> bool:
    number = word.removesuffix("ch")
    if number.isdigit():
        return any(int(number) in (mode["footprint"], mode["cells"]) for mode in profile["modes"])
    return any(
        word in mode["name"].lower() or word in (one.lower() for one in mode["emitters"]) for mode in profile["modes"]
    )
