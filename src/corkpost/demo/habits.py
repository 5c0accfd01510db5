"""How ordinary business goes: regular bills, irregular ones, invoices, what is paid when."""

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from datetime import date, timedelta
from random import Random

from corkpost.core.money import Minor
from corkpost.demo.bookkeeper import Bookkeeper

_DRAFT = re.compile(r"draft\W?(\d+)", re.IGNORECASE)


@dataclass
class Numbers:
    """A party's own numbers, which rise: *jump* at most between two documents."""

    form: str
    last: int
    jump: int = 1

    def next(self, rng: Random) -> str:
        self.last += rng.randint(1, self.jump)
        return self.form.format(self.last)


@dataclass
class Supplier:
    """A supplier's habit. *every*: days between bills; *spread*: how far a bill is off that."""

    code: str
    name: str
    account: str
    every: int
    low: Minor
    high: Minor
    numbers: Numbers
    taxed: bool = True
    spread: int = 3
    pays_in: tuple[int, int] = (10, 35)
    same_sum: bool = False
    memo: Callable[[str], str] = field(default=lambda reference: f"payment {reference}")


@dataclass
class Customer:
    """A customer's habit, alike."""

    code: str
    name: str
    account: str
    every: int
    low: Minor
    high: Minor
    taxed: bool = True
    pays_in: tuple[int, int] = (7, 45)
    memo: Callable[[str], str] = field(default=lambda reference: f"receipt {reference}")


def days(rng: Random, first: date, last: date, every: int, spread: int) -> Iterator[date]:
    """Days about *every* days apart, both ends included."""
    day = first + timedelta(days=rng.randint(0, every))
    while day <= last:
        yield day
        day += timedelta(days=max(1, every + rng.randint(-spread, spread)))


def month_days(first: date, last: date, on: int) -> Iterator[date]:
    """The day *on* of each month."""
    year, month = first.year, first.month
    while date(year, month, 1) <= last:
        day = date(year, month, on)
        if first <= day <= last:
            yield day
        year, month = (year, month + 1) if month < 12 else (year + 1, 1)


def sum_between(rng: Random, low: Minor, high: Minor) -> Minor:
    """An untidy sum: real ones seldom end in nought."""
    return rng.randint(low, high)


def buy(books: Bookkeeper, supplier: Supplier, first: date, last: date) -> list[str]:
    """A supplier's bills over a span, each paid in its time; what falls due later stays open."""
    rng = books.rng
    fixed = sum_between(rng, supplier.low, supplier.high)
    made = []
    for day in days(rng, first, last, supplier.every, supplier.spread):
        gross = fixed if supplier.same_sum else sum_between(rng, supplier.low, supplier.high)
        reference = supplier.numbers.next(rng)
        bill = books.bill(
            supplier.code, day, gross, supplier.account, reference=reference, taxed=supplier.taxed
        )
        made.append(bill)
        paid = day + timedelta(days=rng.randint(*supplier.pays_in))
        if paid <= last:
            books.pay(supplier.code, paid, gross, [bill], memo=supplier.memo(reference))
    return made


def sell(
    books: Bookkeeper, customer: Customer, numbers: Numbers, first: date, last: date
) -> list[tuple[str, date]]:
    """A customer's invoices over a span, each paid in its time. The client's own numbers."""
    rng = books.rng
    made = []
    for day in days(rng, first, last, customer.every, 5):
        gross = sum_between(rng, customer.low, customer.high)
        reference = numbers.next(rng)
        invoice = books.invoice(
            customer.code, day, gross, customer.account, reference=reference, taxed=customer.taxed
        )
        made.append((invoice, day))
        paid = day + timedelta(days=rng.randint(*customer.pays_in))
        if paid <= last:
            books.receive(customer.code, paid, gross, [invoice], memo=customer.memo(reference))
    return made


def renumber_invoices(books: Bookkeeper, form: str, first: int) -> None:
    """Give the client's own invoices rising numbers in the order of their days."""
    invoices = [t for t in books.transactions.values() if t.kind == "sales-invoice"]
    renamed: dict[int, str] = {}
    for number, posted in enumerate(sorted(invoices, key=lambda t: (t.posting_date, t.id)), first):
        draft = _DRAFT.search(posted.reference or "")
        if draft:
            renamed[int(draft[1])] = form.format(number)
        books.transactions[posted.id] = posted._replace(reference=form.format(number))
    for posted in books.transactions.values():
        if posted.kind == "customer-receipt" and posted.memo:
            memo = _DRAFT.sub(lambda said: renamed.get(int(said[1]), said[0]), posted.memo)
            books.transactions[posted.id] = posted._replace(memo=memo)
