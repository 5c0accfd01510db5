"""Every pattern that text from outside meets takes time in proportion to the text, whatever it holds."""

import ast
import importlib
import re
import time
from itertools import product
from pathlib import Path

import pytest

import corkpost

SOURCE = Path(corkpost.__file__).parent
LONG = 20_000
SECONDS = 0.25
"""A pattern that takes time in proportion needs some thousandths of a second; one that goes back over
what it read needs many times this, and one that does so again and again never ends."""
CALLS = {"compile", "match", "fullmatch", "search", "sub", "subn", "split", "findall", "finditer"}


def used(tree, node):
    """By which methods a pattern that was compiled is asked: those that are called by its name."""
    names = {
        target.id
        for found in ast.walk(tree)
        if isinstance(found, ast.Assign) and found.value is node
        for target in found.targets
        if isinstance(target, ast.Name)
    }
    return {
        found.attr
        for found in ast.walk(tree)
        if isinstance(found, ast.Attribute)
        and isinstance(found.value, ast.Name)
        and found.value.id in names
        and found.attr in CALLS
    } or {"search"}


def patterns():
    """Each pattern that stands in the program, with where, and how it is asked."""
    for file in sorted(SOURCE.rglob("*.py")):
        tree = ast.parse(file.read_text("utf-8"))
        module = None
        for node in ast.walk(tree):
            if not (
                isinstance(node, ast.Call)
                and isinstance(node.func, ast.Attribute)
                and isinstance(node.func.value, ast.Name)
                and node.func.value.id == "re"
                and node.func.attr in CALLS
            ):
                continue
            said = node.args[0]
            where = f"{file.relative_to(SOURCE)}:{node.lineno}"
            if isinstance(said, ast.Constant):
                pattern = said.value
            else:
                name = ".".join(("corkpost", *file.relative_to(SOURCE).with_suffix("").parts))
                module = module or vars(importlib.import_module(name))
                try:
                    pattern = eval(compile(ast.Expression(said), where, "eval"), module)
                except NameError:
                    # Made of what the program knows of its own (words of a list, names of columns).
                    continue
            flags = [keyword.value for keyword in node.keywords if keyword.arg == "flags"]
            flags += node.args[1:2] if node.func.attr == "compile" else []
            value = (
                eval(compile(ast.Expression(flags[0]), where, "eval"), {"re": re}) if flags else 0
            )
            yield (
                where,
                pattern,
                value,
                used(tree, node) if node.func.attr == "compile" else {node.func.attr},
            )


FOUND = list(patterns())


def pieces(pattern):
    """What such a text is made of: each sign that the pattern names, and some of each kind."""
    text = pattern if isinstance(pattern, str) else pattern.decode("latin-1")
    named = sorted({sign for sign in text if not sign.isalnum()} - set("\\[]{}()?*+^$|"))
    return ["a", "0", " ", "\n", "-", "<", "(", "é", *named[:8]]


def worst(pattern):
    """Texts that make a pattern go back: a piece again and again, two by turns, with an end that fits
    nothing."""
    made = pieces(pattern)
    for piece in made:
        for end in ("", "\x00", "!"):
            yield piece * LONG + end
    for one, other in product(made, made):
        if one != other:
            yield (one + other) * (LONG // 2) + "\x00"
            yield one * (LONG // 2) + other * (LONG // 2) + "\x00"


@pytest.mark.parametrize(
    ("where", "pattern", "flags", "asked"), FOUND, ids=[row[0] for row in FOUND]
)
def test_a_pattern_takes_time_in_proportion(where, pattern, flags, asked):
    compiled = re.compile(pattern, flags)
    for text in worst(compiled.pattern):
        given = text if isinstance(compiled.pattern, str) else text.encode("utf-8")
        began = time.process_time()
        if asked & {"fullmatch"}:
            compiled.fullmatch(given)
        if asked & {"match"}:
            compiled.match(given)
        if asked - {"fullmatch", "match"}:
            for _ in compiled.finditer(given):
                pass
        took = time.process_time() - began
        assert took < SECONDS, f"{where}: {compiled.pattern!r} took {took:.2f} s on {text[:20]!r}"


def test_patterns_are_found():
    assert len(FOUND) > 40
