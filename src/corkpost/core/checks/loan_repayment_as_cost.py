"""loan-repayment-as-cost: equal regular payments to a lender, all in cost, or all in the loan with no
interest."""

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from itertools import pairwise

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.evidence.names import words_of
from corkpost.core.evidence.said import payee, said_of, statement_words, told_by
from corkpost.core.evidence.who import finder_for
from corkpost.core.kinds import MONEY_ROLES, AccountRole, PartyKind, TransactionKind
from corkpost.core.money import Minor
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import DraftEntry, LoanSplit, Side

CHECK = Check(
    "loan-repayment-as-cost",
    family=Family.CODING,
    routes=("adjust", "ask", "leave", "waive"),
    after=("bill-paid-direct",),
    finds="instalments of a loan that are all cost, or all loan and no interest",
    avoid=(
        "An instalment has two parts: interest, which is a cost, and repayment, which makes "
        "the loan smaller. The lender's statement says how much."
    ),
)
TIMES = 3
LONG = 8
MONTH = range(25, 37)
QUARTER = range(80, 102)
REGULAR = 0.75
ABOUT = 0.03
"""Instalments whose interest falls are of one sum but for so much."""
LOAN_WORDS = frozenset(
    "LOAN LOANS KREDIT DARLEHEN EMPRUNT PRET MORTGAGE HYPOTHEK INSTALMENT RATE LENING "
    "PRESTAMO PRESTITO MUTUO KREDYT".split()
)
KINDS = (TransactionKind.DIRECT_PAYMENT, TransactionKind.SUPPLIER_PAYMENT)
Key = tuple[str, str, Minor, str]
"""Account, who, amount, financial year."""


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    loans = books.with_role(AccountRole.LOAN)
    if not loans:
        return
    with_interest = set(_months_with_interest(books))
    told = {name for p in run.found_before(CHECK) for name in p.transactions}
    for key, rows in _series(books).items():
        if not _is_regular(rows) or {posted.id for posted in rows} & told:
            continue
        in_cost = books.accounts[key[0]].is_profit_and_loss
        if in_cost and _taken_to_loan(books, key, rows):
            continue
        if not in_cost and any(
            (posted.posting_date.year, posted.posting_date.month) in with_interest
            for posted in rows
        ):
            continue
        told |= {posted.id for posted in rows}
        yield _point(run, key, rows)
    yield from (_point(run, key, [posted]) for key, posted in _alone(books, with_interest, told))


def _alone(
    books: Books, with_interest: set[tuple[int, int]], told: set[str]
) -> Iterator[tuple[Key, Transaction]]:
    """Instalments that went to the loan, or to interest, whole, where others of about that sum were booked
    in both."""
    loans = {loan.code for loan in books.with_role(AccountRole.LOAN)}
    interest = {account.code for account in books.with_role(AccountRole.LOAN_INTEREST)}
    usual: dict[tuple[str, str], list[Minor]] = defaultdict(list)
    whole: list[tuple[str, str, Transaction]] = []
    live = (p for p in books.of_kinds(*KINDS) if p.change is None and p.id not in told)
    for posted in live:
        if books.is_answered(posted.id):
            continue
        roles = {books.accounts[x.account].role for x in posted.lines}
        paid_back = [x for x in posted.lines if x.account in loans and x.amount > 0]
        only = _only_other(books, posted)
        year = books.calendar.year_of(posted.posting_date).label
        if len(paid_back) == 1 and AccountRole.LOAN_INTEREST in roles:
            usual[paid_back[0].account, year].append(posted.total)
        elif only is not None and (paid_back or AccountRole.LOAN_INTEREST in roles):
            whole.append((only.account, year, posted))
    for account, year, posted in whole:
        others = (
            sums
            for (loan, of), sums in usual.items()
            if of == year and account in (loan, *interest)
        )
        alike = [x for sums in others for x in sums if abs(x - posted.total) <= x * ABOUT]
        month = (posted.posting_date.year, posted.posting_date.month)
        if len(alike) >= TIMES and (account in interest or month not in with_interest):
            yield (account, posted.party or "", posted.total, year), posted


def _months_with_interest(books: Books) -> Iterator[tuple[int, int]]:
    """The months in which interest was booked: on its account, or out of a loan into any cost. An
    instalment that bears interest says nothing of another loan's."""
    loans = {loan.code for loan in books.with_role(AccountRole.LOAN)}
    of_interest = {account.code for account in books.with_role(AccountRole.LOAN_INTEREST)}
    for account in (*of_interest, *loans):
        for posted, line in books.lines_on(account):
            out_of_loan = line.account in loans and line.amount < 0 and _costs(books, posted)
            interest = line.account in of_interest and line.amount > 0
            paid_back = any(x.account in loans and x.amount > 0 for x in posted.lines)
            if (interest or out_of_loan) and not paid_back and posted.id not in books.never_was:
                yield posted.posting_date.year, posted.posting_date.month


def _costs(books: Books, posted: Transaction) -> bool:
    return any(books.accounts[x.account].is_profit_and_loss and x.amount > 0 for x in posted.lines)


def _taken_to_loan(books: Books, key: Key, rows: Sequence[Transaction]) -> bool:
    """Whether a journal took all of them from the cost to a loan since."""
    account, _, amount, _ = key
    loans = {loan.code for loan in books.with_role(AccountRole.LOAN)}
    return any(
        line.amount == -amount * len(rows)
        and posted.id not in books.never_was
        and any(other.account in loans and other.amount > 0 for other in posted.lines)
        for posted, line in books.lines_on(account)
    )


def _series(books: Books) -> dict[Key, list[Transaction]]:
    """Payments to whom a loan is owed, that are all on one account, of years not filed yet."""
    of_banks = {word for own in books.with_role(*MONEY_ROLES) for word in words_of(own.name)}
    named = LOAN_WORDS | {
        word
        for account in books.with_role(AccountRole.LOAN)
        for word in words_of(account.name)
        if len(word) > 3 and word not in of_banks
    }
    rows = books.rows_by(
        "paid to lenders",
        lambda posted: _key(books, posted, named),
        *KINDS,
        ground=(books.calendar, books.client.filed_through, statement_words(books)),
    )
    live = {
        key: [posted for posted in own if not books.is_answered(posted.id)]
        for key, own in rows.items()
    }
    return _merged(books, {key: own for key, own in live.items() if own})


def _merged(books: Books, found: Mapping[Key, list[Transaction]]) -> dict[Key, list[Transaction]]:
    """Instalments of one sum on one account are one series, however their texts name the lender: as long as
    no two lenders are among them."""
    alike: dict[tuple[str, Minor, str], list[Key]] = defaultdict(list)
    for key in found:
        alike[key[0], key[2], key[3]].append(key)
    merged: dict[Key, list[Transaction]] = {}
    for keys in alike.values():
        lenders = [key for key in keys if key[1] in books.parties]
        if len(lenders) > 1:
            merged |= {key: found[key] for key in keys}
            continue
        (first, *_) = lenders or sorted(keys, key=lambda key: (-len(found[key]), key))
        merged[first] = [posted for key in keys for posted in found[key]]
    return merged


def _key(books: Books, posted: Transaction, named: frozenset[str]) -> Iterator[Key]:
    """Of which series it is; nothing where it pays no loan."""
    filed = books.client.filed_through
    line = _only_other(books, posted)
    if line is None or posted.change is not None or (filed and posted.posting_date <= filed):
        return
    account = books.accounts[line.account]
    for_itself = account.role in (AccountRole.LOAN_INTEREST, AccountRole.BANK_CHARGES)
    party = payee(books, finder_for(books, PartyKind.LENDER), posted)
    who = party if party and books.parties[party].kind is PartyKind.LENDER else None
    words = words_of(told_by(books, posted))
    coded = account.role is AccountRole.LOAN or (account.is_profit_and_loss and not for_itself)
    said = words_of(said_of(books, posted))
    if coded and (who is not None or said & named or any(map(_ends_as_loan, said))):
        name = who or " ".join(sorted(w for w in words if w.isalpha()))
        year = books.calendar.year_of(posted.posting_date).label
        yield line.account, name, line.amount, year


def _ends_as_loan(word: str) -> bool:
    """Whether a bank ran its words together, the loan last."""
    return len(word) > LONG and word.endswith(("LOAN", "KREDIT", "DARLEHEN", "EMPRUNT", "MORTGAGE"))


def _only_other(books: Books, posted: Transaction) -> Line | None:
    others = [x for x in posted.lines if books.accounts[x.account].role not in MONEY_ROLES]
    return others[0] if len(others) == 1 and others[0].amount > 0 else None


def _is_regular(rows: Sequence[Transaction]) -> bool:
    if len(rows) < TIMES:
        return False
    days = sorted(posted.posting_date for posted in rows)
    gaps = [(later - before).days for before, later in pairwise(days)]
    return any(
        sum(gap in rhythm for gap in gaps) >= REGULAR * len(gaps) for rhythm in (MONTH, QUARTER)
    )


def _point(run: CheckRun, key: Key, rows: list[Transaction]) -> Point:
    books = run.books
    account, who, amount, year = key
    words = books.client.currency.format_amount
    name = books.party_name(who) if who in books.parties else (rows[0].memo or who)
    loan = _loan_of(books, account, name)
    in_cost = books.accounts[account].is_profit_and_loss
    total = amount * len(rows)
    interest = next(iter(books.with_role(AccountRole.LOAN_INTEREST)), None)
    last = max(posted.posting_date for posted in rows)
    coded = books.accounts[account].name
    if in_cost:
        says = (
            f"{words(amount)} to {name} on {last:%-d %B %Y} is all on {coded}; its others pay it back."
            if len(rows) == 1
            else f"{len(rows)} equal payments of {words(amount)} to {name} in {year} are all on {coded}."
        )
        sides: tuple[Side, ...] = (Side(loan, total), Side(account, -total))
        title = f"Take them to {books.accounts[loan].name}, interest apart"
        because = "an instalment pays back the loan; only its interest is cost"
    else:
        alone = len(rows) == 1
        says = (
            f"{words(amount)} to {name} on {last:%-d %B %Y} is all on {coded}; its others hold interest."
            if alone
            else f"{len(rows)} equal payments of {words(amount)} to {name} in {year} are all on {coded}, "
            "and no interest is booked."
        )
        sides = ()
        title = "Take the interest out of the loan"
        because = "a lender's instalments hold interest too"
    return CHECK.point(
        books,
        subjects={},
        about={"account": (account,), "year": (year,), "payee": (who,)},
        related=tuple(posted.id for posted in rows[:3]),
        account=account,
        amount=total,
        certainty=0.88 if in_cost else 0.82,
        summary=says,
        short=f"{name}, {len(rows)} of {words(amount)}",
        because=(because, *(("the same sum at the same distance",) if len(rows) > 1 else ())),
        remedy=DraftEntry(
            on=last,
            sides=sides,
            title=title,
            reason=f"Instalments to {name} in {year}: what pays back the loan is no cost.",
            about=tuple(posted.id for posted in rows),
            loan=LoanSplit(loan, interest.code if interest else "", total),
            answers=rows[0].id if len(rows) == 1 else "",
        ),
    )


def _loan_of(books: Books, account: str, name: str) -> str:
    """The loan account that the payments belong to: their own, the one named like the lender, any."""
    loans = books.with_role(AccountRole.LOAN)
    if account in {own.code for own in loans}:
        return account
    wanted = words_of(name)
    return max(loans, key=lambda own: (len(wanted & words_of(own.name)), own.code)).code
