"""Agreeing at once all of a statement that is sure, or as good as sure (section 4)."""

from collections.abc import Collection

from corkpost.core.bank.agreeing import Wanted, plan_agree
from corkpost.core.bank.sides import BankSides, bank_sides
from corkpost.core.books import Books
from corkpost.core.change import Plan
from corkpost.core.matching.bank_look import bank_look
from corkpost.core.points import Level
from corkpost.core.refusals import NothingToDo, UnknownName
from corkpost.core.statements import Statement


def statement_named(sides: BankSides, number: int | None, finished: Collection[int]) -> Statement:
    """The statement of that number; the first that is not finished, else the last, unless given.

    Raises UnknownName where the account has no such statement.
    """
    if not sides.statements:
        raise UnknownName("statement of account", sides.account)
    if number is None:
        open_ = [statement for statement in sides.statements if statement.number not in finished]
        return open_[0] if open_ else sides.statements[-1]
    for statement in sides.statements:
        if statement.number == number:
            return statement
    raise UnknownName("statement", str(number))


def plan_agree_sure(books: Books, account: str, number: int | None, level: Level) -> Plan:
    """Agree all proposals of the statement that are sure (or, with *level* likely, those too).

    Raises NothingToDo where there is none.
    """
    sides = bank_sides(books, account)
    done = {finished.statement for finished in books.finished}
    look = bank_look(books, sides, statement_named(sides, number, done))
    levels = {Level.SURE, level}
    wanted = [
        Wanted(proposal.entries, proposal.lines, "; ".join(proposal.why), by_program=True)
        for proposal in look.proposals
        if proposal.level in levels
    ]
    if not wanted:
        raise NothingToDo("Nothing that is sure is left to agree in this statement.")
    return plan_agree(books, account, wanted)
