"""Comparing references as bookkeepers key them."""

import re
from enum import StrEnum
from functools import lru_cache

from rapidfuzz.distance import OSA

# Bookkeepers key O for 0 and I for 1. Folded only to compare: people always see what was keyed.
_LOOK_ALIKES = str.maketrans("OIL", "011")
LEAST_DIGITS = 6
LONG_RUN = 5
"""A run of so many digits tells a number whatever stands about it: not a year, and no day of a month."""
KEYED_IN_LETTERS = 4
"""A number of so many signs is known where all its digits were keyed as the letters that look like them."""
_DIGITS = re.compile(r"\d+")
_JOINED = re.compile(r"(?<!\d)\d+(?:[-/._]\d+)+")


class Likeness(StrEnum):
    SAME = "same"
    FOLDED = "folded"
    SLIP = "slip"
    QUOTED = "quoted"
    ABSENT = "absent"
    DIFFERENT = "different"


@lru_cache(maxsize=1 << 16)
def folded(reference: str | None) -> str:
    """The reference without case, spaces, punctuation, leading zeros and O/0, I/1 mix-ups.

    Leading zeros go from each run of digits: RW-0117 and RW 117 are the same number.
    """
    if not reference:
        return ""
    signs = "".join(sign for sign in reference.upper() if sign.isalnum())
    digits = signs.translate(_LOOK_ALIKES) if any(map(str.isdigit, signs)) else signs
    return _DIGITS.sub(lambda run: run[0].lstrip("0"), digits)


@lru_cache(maxsize=1 << 16)
def look_alike(reference: str | None) -> str:
    """The folded reference with every letter that is keyed for a digit as that digit."""
    return folded(reference).translate(_LOOK_ALIKES)


def number_in(reference: str | None) -> int | None:
    """The last run of digits, as a number: the supplier's own sequence."""
    runs = _DIGITS.findall(reference or "")
    return int(runs[-1][-15:]) if runs else None


def likeness(one: str | None, other: str | None) -> Likeness:
    """How alike two references are, with one keying slip allowed."""
    first, second = folded(one), folded(other)
    if not first or not second:
        return Likeness.ABSENT
    if first == second:
        return Likeness.SAME if one == other else Likeness.FOLDED
    # A number of noughts and ones alone, keyed in letters, has no digit left to tell it by.
    if look_alike(one) == look_alike(other) and any(map(str.isdigit, first + second)):
        return Likeness.FOLDED
    # Below four signs one slip turns any number into any other.
    if min(len(first), len(second)) >= 4 and OSA.distance(first, second, score_cutoff=1) == 1:
        return Likeness.SLIP
    if _stands_in(first, other or "") or _stands_in(second, one or ""):
        return Likeness.QUOTED
    return Likeness.DIFFERENT


_PARTS = re.compile(r"[^\s,;/]+")


def _stands_in(number: str, reference: str) -> bool:
    """Whether a folded number of four signs and more is some of the words of another reference, as of
    `Order 77 / BX-9911`, and not all of them."""
    if len(number) < KEYED_IN_LETTERS or not any(map(str.isdigit, number)):
        return False
    parts = [folded(part) for part in _PARTS.findall(reference)]
    whole = len(parts)
    return any(
        "".join(parts[start:end]) == number
        for start in range(whole)
        for end in range(start + 1, whole + 1)
        if end - start < whole
    )


def is_substitution(one: str | None, other: str | None) -> bool:
    """Whether the slip between them is one sign for another, as consecutive numbers also differ."""
    first, second = folded(one), folded(other)
    return (
        len(first) == len(second) and sum(a != b for a, b in zip(first, second, strict=True)) == 1
    )


@lru_cache(maxsize=1 << 16)
def quotes(text: str | None, reference: str | None) -> bool:
    """Whether *text* names the reference: its folded form stands in the folded text.

    A bare number of one or two digits is quoted by chance too often to count.
    """
    needle = folded(reference)
    if len(needle) < 3 or not text:
        return False
    if needle.isdigit():
        words = re.split(r"[^0-9A-Za-z]+", text)
        return any(folded(word) == needle for word in words) or any(
            folded(run) == needle for run in (*_DIGITS.findall(text), *_JOINED.findall(text))
        )
    said = _DIGITS.findall(text)
    return (
        needle in folded(text)
        or (len(needle) >= KEYED_IN_LETTERS and look_alike(reference) in look_alike(text))
        or all_digits(reference) in said
        or any(len(run) >= LONG_RUN and run in said for run in _DIGITS.findall(reference or ""))
    )


def all_digits(reference: str | None) -> str:
    """All digits of a number in parts, as some write it; a dash where those are too few to tell."""
    runs = _DIGITS.findall(reference or "")
    joined = "".join(runs)
    return joined if len(runs) > 1 and len(joined) >= LEAST_DIGITS else "-"


def _is_year(run: str) -> bool:
    """Whether it may be a year, which many texts bear."""
    return len(run) == 4 and 1990 <= int(run) <= 2100


def runs_in(text: str | None) -> tuple[str, ...]:
    """The runs of digits in a text, as they stand and as they are compared, without leading noughts."""
    found = _DIGITS.findall(text or "") + _DIGITS.findall(folded(text))
    return tuple(run.lstrip("0") for run in found if run.strip("0"))


@lru_cache(maxsize=1 << 16)
def numbers_of(reference: str | None) -> tuple[str, ...]:
    """The runs of digits by which a paper may be quoted: each of four or more, and all of them together."""
    runs = [*_DIGITS.findall(folded(reference)), *_DIGITS.findall(reference or "")]
    bare = [run.lstrip("0") for run in runs]
    found = [run for run in bare if len(run) >= 4 and not _is_year(run)]
    return tuple(dict.fromkeys([*found, all_digits(reference).lstrip("0")]))
