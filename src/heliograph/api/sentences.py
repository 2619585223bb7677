"""What is wrong with the shape of a request, in our words: one sentence, and what would be right."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

WORDS = {
    "rate_hz": "frames a second",
    "picture_width_m": "width of the picture in metres",
    "picture_height_m": "height of the picture in metres",
    "ids": "list of fixtures",
    "loc": "request",
}
"""Names of fields that do not say themselves what they are."""

SHOWN = 40
"""So much of what was given is said again."""

Told = tuple[str, str]
"""What is wrong, and what would be right."""


def shape_fault(kind: str, name: str, given: Any, limits: Mapping[str, Any], otherwise: str) -> Told:
    """`kind` of a schema's error, `name` of the field and whose it is, what was `given`, the `limits` that were left.
    `otherwise`: the schema's own words, for a kind that is not known here."""
    plain, of, rest = name.partition(" ")
    field = f"{WORDS.get(plain, plain.replace('_', ' '))}{of}{rest}" if name else "request"
    subject = f"The {field}"
    says = _SAYS.get(kind)
    if says is None:
        return f"{subject}: {otherwise}.", ""
    return says(subject, _shown(given), limits)


def _shown(given: Any) -> str:
    if isinstance(given, bool) or given is None:
        return {True: "on", False: "off", None: "nothing"}[given]
    if isinstance(given, (int, float)):
        return f"{given:g}" if isinstance(given, float) else str(given)
    if isinstance(given, str):
        return f"'{given[:SHOWN]}'"
    return "that"


def _whole(subject: str, given: str, _limits: Mapping[str, Any]) -> Told:
    return f"{subject} is a whole number, not {given}.", "Type a number such as 12."


def _number(subject: str, given: str, _limits: Mapping[str, Any]) -> Told:
    return f"{subject} is a number, not {given}.", "Type a number such as 2.5."


def _least(subject: str, given: str, limits: Mapping[str, Any]) -> Told:
    least = limits.get("ge", limits.get("gt"))
    than = "" if "ge" in limits else "more than "
    return f"{subject} {given} is too small.", f"It is {than}{least:g}{' or more' if 'ge' in limits else ''}."


def _most(subject: str, given: str, limits: Mapping[str, Any]) -> Told:
    most = limits.get("le", limits.get("lt"))
    than = "" if "le" in limits else "less than "
    return f"{subject} {given} is too large.", f"It is {than}{most:g}{' or less' if 'le' in limits else ''}."


def _long(subject: str, _given: str, limits: Mapping[str, Any]) -> Told:
    return f"{subject} is too long.", f"{limits.get('max_length')} is the most."


def _short(subject: str, given: str, limits: Mapping[str, Any]) -> Told:
    least = int(limits.get("min_length", 1))
    if least <= 1:
        return f"{subject} is empty.", "It needs something in it."
    return f"{subject} is too short: {given}.", f"It has {least} or more."


def _choice(subject: str, given: str, limits: Mapping[str, Any]) -> Told:
    return f"{subject} is not {given}.", f"Use {limits.get('expected', '')}."


def _tag(subject: str, _given: str, limits: Mapping[str, Any]) -> Told:
    tag, known = str(limits.get("tag", ""))[:SHOWN], limits.get("expected_tags", "")
    return f"{subject} knows no '{tag}'.", f"Use {known}."


_SAYS: dict[str, Callable[[str, str, Mapping[str, Any]], Told]] = {
    "int_parsing": _whole,
    "int_type": _whole,
    "int_from_float": _whole,
    "int_parsing_size": _whole,
    "float_parsing": _number,
    "float_type": _number,
    "finite_number": _number,
    "greater_than_equal": _least,
    "greater_than": _least,
    "less_than_equal": _most,
    "less_than": _most,
    "string_too_long": _long,
    "too_long": _long,
    "string_too_short": _short,
    "too_short": _short,
    "literal_error": _choice,
    "enum": _choice,
    "union_tag_invalid": _tag,
    "union_tag_not_found": lambda subject, _given, _limits: (f"{subject} does not say what it is.", ""),
    "missing": lambda subject, _given, _limits: (f"{subject} is missing.", ""),
    "extra_forbidden": lambda subject, _given, _limits: (f"{subject} is not asked for here.", "Leave it out."),
    "string_type": lambda subject, given, _limits: (f"{subject} is a text, not {given}.", ""),
    "bool_type": lambda subject, given, _limits: (f"{subject} is on or off, not {given}.", ""),
    "bool_parsing": lambda subject, given, _limits: (f"{subject} is on or off, not {given}.", ""),
    "list_type": lambda subject, given, _limits: (f"{subject} is a list, not {given}.", ""),
    "dict_type": lambda subject, given, _limits: (f"{subject} is a table of names and values, not {given}.", ""),
    "uuid_parsing": lambda subject, given, _limits: (f"{subject} is no id: {given}.", ""),
    "uuid_type": lambda subject, given, _limits: (f"{subject} is no id: {given}.", ""),
    "string_pattern_mismatch": lambda subject, given, _limits: (f"{subject} is not written like that: {given}.", ""),
    "json_invalid": lambda _subject, _given, _limits: ("The request cannot be read.", "It has to be JSON."),
}
