"""Taking in bank statements: recognised, compared with what is there, written with their lines."""

import hashlib
import json
from collections.abc import Sequence
from datetime import date, timedelta
from decimal import Decimal
from pathlib import PurePosixPath
from typing import NamedTuple

from corkpost.core.bank.setting_aside import refuse_in_use
from corkpost.core.bank.whose_statement import (
    evidence,
    other_number,
    refuse_doubtful,
    same_number,
)
from corkpost.core.books import BankAccount, Books, StatementFile
from corkpost.core.foreign import currency_of_account
from corkpost.core.formatting import format_date
from corkpost.core.kinds import MONEY_ROLES, AccountRole
from corkpost.core.money import Currency, Minor, NotAnAmount
from corkpost.core.periods import FIRST_DAY
from corkpost.core.refusals import (
    AlreadyTakenBack,
    BadEntry,
    ChangedMeanwhile,
    NoReason,
    UnknownName,
)
from corkpost.core.statements import Given, Statement, StatementLine, sums_of, told_apart
from corkpost.formats.statements.apart import read_within_limits
from corkpost.formats.statements.csv_table import Columns, NeedsColumns, columns_of, layout_of
from corkpost.formats.statements.parsed import (
    ParsedFile,
    ParsedLine,
    ParsedStatement,
    UnreadableStatement,
)
from corkpost.services.expected import settle_expected
from corkpost.services.rights import May, Person
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store import changes as change_store
from corkpost.store import statements as statement_store
from corkpost.store.changes import ChangeHead, Content

STATEMENT_ROLES = MONEY_ROLES | {AccountRole.CREDIT_CARD, AccountRole.CARD_CLEARING}


EARLIER_YEARS = 10
"""How many years before those of the books a statement may be."""


class StatementIntake(NamedTuple):
    """What taking in did for one account. *lines* are those of the file, *already* of them known.
    *settled*: what was expected and came with them, in words."""

    account: str
    lines: int
    already: int
    opening: Minor | None
    closing: Minor | None
    first_day: date
    last_day: date
    warnings: tuple[str, ...]
    settled: tuple[str, ...] = ()

    @property
    def new(self) -> int:
        return self.lines - self.already


def take_in(
    workplace: Workplace,
    person: Person,
    client_code: str,
    name: str,
    content: bytes,
    account: str | None = None,
    columns: Columns | None = None,
    *,
    sure: bool = False,
) -> tuple[StatementIntake, ...]:
    """Take in a statement file, whole or not at all. *account*: where the file does not say whose.
    *sure*: a person says that it is of that account, whatever speaks against it.

    Raises UnreadableStatement, NeedsColumns, WhoseStatement where a person must say whether it is of
    the account, or BadEntry where a statement is of no account here.
    What was taken in before is not taken twice: where nothing is new, nothing is written. The bank's
    corrections that were expected are recorded and agreed.
    """
    person.must_be_allowed(May.TAKE_IN)
    ledger = workplace.ledger(person, client_code)
    if account is not None:
        _refuse_no_bank(ledger.books, account)
    # A CSV does not say whose it is: what was answered of its columns goes with the account.
    meant = account or _only_bank(ledger.books)
    parsed = _parsed(workplace, ledger, content, meant, columns)
    digest = hashlib.sha256(content).hexdigest()
    with workplace.database.writing() as connection:
        now = workplace.ledger(person, client_code)
        if now.client != ledger.client and now.books.statements != ledger.books.statements:
            raise ChangedMeanwhile(
                "Somebody else took in a statement meanwhile. Take this one in once more."
            )
        reading = Reading(now.books, _free_path(now.books, name), digest)
        reading.take(parsed, account, sure=sure)
        if reading.found:
            workplace.keep_file(content)
            written = Content()
            written.add_kept("statements", reading.files())
            written.add_statements(reading.found)
            accounts = " and ".join(sorted({statement.account for statement in reading.found}))
            head = ChangeHead(
                "statement", person.code, workplace.now, f"statement {name} of {accounts} taken in"
            )
            change_store.append(connection, now.client.id, head, written)
        if columns is not None and meant is not None:
            heading = json.dumps(layout_of(content).heading, ensure_ascii=False)
            statement_store.keep_column_choice(
                connection, now.client.id, meant, heading, columns.as_json()
            )
    settled = settle_expected(workplace, person, client_code) if reading.found else ()
    return tuple(
        intake._replace(
            settled=tuple(words for account, words in settled if account == intake.account)
        )
        for intake in reading.taken
    )


def set_aside(
    workplace: Workplace, person: Person, client_code: str, change: int, reason: str
) -> None:
    """Set aside the statements of a file that should not have been taken in, as of another account.

    They stay in the store and count no more; the file can be taken in again. Raises UnknownName,
    NoReason, AlreadyTakenBack, or InUse while a line of them is agreed or finished, or a later
    statement was compared with them.
    """
    person.must_be_allowed(May.TAKE_IN)
    if not reason.strip():
        raise NoReason()
    with workplace.database.writing() as connection:
        ledger = workplace.ledger(person, client_code)
        rows = {row.number: row for row in change_store.changes_of(connection, ledger.client.id)}
        if change not in rows or rows[change].kind != "statement":
            raise UnknownName("statement file taken in by change", str(change))
        if change in ledger.books.undone:
            raise AlreadyTakenBack(f"What change {change} took in was set aside already.")
        numbers = statement_store.brought_by(connection, ledger.client.id, change)
        refuse_in_use(ledger.books, numbers)
        head = ChangeHead(
            "undo",
            person.code,
            workplace.now,
            f"statement set aside: {reason.strip()}",
            undoes=change,
        )
        change_store.append(connection, ledger.client.id, head, Content())


def _only_bank(books: Books) -> str | None:
    banks = books.with_role(AccountRole.BANK)
    return banks[0].code if len(banks) == 1 else None


def _refuse_no_bank(books: Books, account: str) -> None:
    if books.account(account).role not in STATEMENT_ROLES:
        raise BadEntry(
            [f"{account} {books.account(account).name} is no bank account: its role says so."]
        )


def _parsed(
    workplace: Workplace,
    ledger: ClientState,
    content: bytes,
    account: str | None,
    columns: Columns | None,
) -> ParsedFile:
    try:
        return read_within_limits(content, columns)
    except NeedsColumns as asked:
        heading = json.dumps(asked.layout.heading, ensure_ascii=False)
        with workplace.database.snapshot() as connection:
            answered = account and statement_store.column_choice(
                connection, ledger.client.id, account, heading
            )
        if not answered:
            raise
    return read_within_limits(content, columns_of(answered))


def _free_path(books: Books, name: str) -> str:
    """Where the file stands in the books folder: its own name, with a number where that is taken."""
    plain = PurePosixPath(name.replace("\\", "/")).name or "statement"
    taken = {row.path for row in books.tables.statements} | books.statement_paths
    path, number = f"statements/{plain}", 1
    while path in taken:
        number += 1
        stem = PurePosixPath(plain)
        path = f"statements/{stem.stem}-{number}{stem.suffix}"
    return path


class Reading:
    """The statements of one file, compared with what the books have."""

    def __init__(self, books: Books, path: str, digest: str) -> None:
        self._books = books
        self._path = path
        self._digest = digest
        self._format = ""
        self._number = books.next_statement
        self.found: list[Statement] = []
        self.taken: list[StatementIntake] = []

    def take(self, parsed: ParsedFile, account: str | None, *, sure: bool) -> None:
        """Compare each statement of the file. *account*: of those that do not say whose they are. *sure*:
        nothing that speaks against it counts."""
        self._format = parsed.format
        named = {statement.identifier for statement in parsed.statements if statement.identifier}
        for statement in parsed.statements:
            code = self._account_of(statement, account, len(named))
            known = self._numbered(code)
            same = same_number(statement.identifier, known.identifier if known else None)
            if same is False and known and not sure:
                name = self._books.account(code).name
                number = statement.identifier or ""
                raise BadEntry([other_number(code, name, number, known.identifier or "")])
            self._take(statement, code, parsed.warnings, sure=sure or same is True)

    def _numbered(self, account: str) -> BankAccount | None:
        rows = self._books.tables.bank_accounts
        return next((row for row in rows if row.account == account), None)

    def files(self) -> list[StatementFile]:
        """The rows that keep the file with its accounts."""
        accounts = dict.fromkeys(statement.account for statement in self.found)
        return [
            StatementFile._make((account, self._path, self._format, self._digest, ""))
            for account in accounts
        ]

    def _account_of(self, statement: ParsedStatement, account: str | None, named: int) -> str:
        """Raises BadEntry where the file names an account that is not the one wanted."""
        books = self._books
        by_identifier = {
            _plain(row.identifier): row.account
            for row in books.tables.bank_accounts
            if row.identifier
        }
        own = by_identifier.get(_plain(statement.identifier)) if statement.identifier else None
        if own and account and own != account and named == 1:
            raise BadEntry(
                [f"This is a statement of {own} {books.account(own).name}, not of {account}."]
            )
        code = own or (account if named <= 1 else None) or self._only_account(statement)
        if code is None:
            raise BadEntry(
                [
                    f"No bank account here has the number {statement.identifier or '(none given)'}: say "
                    "which account it is, or give the account that number in the client's books."
                ]
            )
        known = self._numbered(code)
        wanted = (known and known.currency) or books.client.currency.code
        if statement.currency and statement.currency != wanted:
            raise BadEntry(
                [f"The statement is in {statement.currency}, the account {code} in {wanted}."]
            )
        return code

    def _only_account(self, statement: ParsedStatement) -> str | None:
        return _only_bank(self._books) if not statement.identifier else None

    def _take_nothing(self, account: str, warnings: tuple[str, ...]) -> None:
        """A statement without lines or days is one: there is nothing of it to keep but its file."""
        day = self._books.received_through or self._books.client.books_to or FIRST_DAY
        said_ = (*warnings, "The file has a heading and no lines: nothing happened in it.")
        self.taken.append(StatementIntake(account, 0, 0, None, None, day, day, said_))

    def _refuse_far(self, given: Sequence[Given], first: date, last: date) -> None:
        """Raise UnreadableStatement for days that the books can't reach: they are slips of a file."""
        reach = self._books.reach
        earliest = max(
            FIRST_DAY, reach.first_day.replace(year=reach.first_day.year - EARLIER_YEARS)
        )
        far = [
            day
            for day in (first, last, *(x.day for x in given))
            if not earliest <= day <= reach.last_day
        ]
        if far:
            lines = [str(x.number) for x in given if x.day in far]
            where = f"Line {lines[0]} is" if lines else "The statement is"
            raise UnreadableStatement(
                f"{where} dated {format_date(far[0])}, and the years of these books go from "
                f"{format_date(reach.first_day)} to {format_date(reach.last_day)}. Look at the file."
            )

    def _take(
        self, statement: ParsedStatement, account: str, warnings: tuple[str, ...], *, sure: bool
    ) -> None:
        currency = currency_of_account(self._books, account)
        given = [_given(line, currency) for line in statement.lines]
        before = [x for x in (*self._books.statements, *self.found) if x.account == account]
        known = told_apart(given, (line for x in before for line in x.lines))
        span = _span(statement, given)
        if span is None:
            self._take_nothing(account, warnings)
            return
        first, last = span
        self._refuse_far(given, first, last)
        closing = _minor(statement.closing, currency, "The closing balance")
        opening, notes = _opening(statement, currency, given, before, first, last)
        sums = sums_of(opening, closing, given)
        stood = _stood(before, first)
        if not sure:
            weighed = evidence(
                self._books, account, given, opening=opening, stood=stood, already=known.already
            )
            refuse_doubtful(self._books, account, weighed)
        said_ = [*warnings, *notes, *_gap(before, opening, stood, first, currency)]
        if sums.off_by:
            said_.append(
                f"Opening and lines come to {currency.format_amount(sums.off_by)} "
                f"{'more' if sums.off_by > 0 else 'less'} than the closing balance, from line "
                f"{sums.off_from} on: this statement can't be finished."
            )
        self.taken.append(
            StatementIntake(
                account, len(given), known.already, opening, closing, first, last, tuple(said_)
            )
        )
        if not known.new and any(
            (x.last_day == last and x.closing == closing) or (given and x.last_day >= last)
            for x in before
        ):
            return
        self.found.append(
            Statement(
                self._number,
                account,
                self._path,
                first,
                last,
                opening,
                closing,
                sums.off_by,
                f"{self._path}#{sums.off_from}" if sums.off_from else None,
                tuple(said_),
                tuple(
                    StatementLine(f"{self._path}#{line.number}", self._number, *line[1:])
                    for line in known.new
                ),
            )
        )
        self._number += 1


def _plain(identifier: str | None) -> str:
    return "".join(sign for sign in (identifier or "").upper() if sign.isalnum())


def _minor(amount: Decimal | None, currency: Currency, what: str) -> Minor | None:
    if amount is None:
        return None
    try:
        return currency.parse(f"{amount:f}" if amount != amount.to_integral() else f"{int(amount)}")
    except NotAnAmount as error:
        raise UnreadableStatement(f"{what}: {error}.") from None


def _given(line: ParsedLine, currency: Currency) -> Given:
    amount = _minor(line.amount, currency, f"Line {line.number}") or 0
    balance = _minor(line.balance, currency, f"The balance of line {line.number}")
    return Given(
        line.number,
        line.day,
        amount,
        line.text,
        line.reference,
        line.counterparty,
        line.bank_id,
        balance,
        line.value_day,
    )


def _span(statement: ParsedStatement, given: Sequence[Given]) -> tuple[date, date] | None:
    """From which day to which; None for a statement that has no lines and says no days."""
    days = [line.day for line in given]
    first = min(
        [*days, *([statement.first_day] if statement.first_day else [])], default=statement.last_day
    )
    last = max([*days, *([statement.last_day] if statement.last_day else [])], default=first)
    return (first, last) if first and last else None


def _opening(
    statement: ParsedStatement,
    currency: Currency,
    given: Sequence[Given],
    before: Sequence[Statement],
    first: date,
    last: date,
) -> tuple[Minor | None, list[str]]:
    """The opening balance: the file's, else the closing balance of the statement that it follows,
    else what closing and lines make it."""
    opening = _minor(statement.opening, currency, "The opening balance")
    if opening is not None:
        return opening, []
    earlier = [x for x in before if x.last_day < first and x.closing is not None]
    if earlier:
        latest = max(earlier, key=lambda x: x.order)
        if first - latest.last_day <= timedelta(days=7):
            return latest.closing, []
    closing = _minor(statement.closing, currency, "The closing balance")
    if closing is None:
        return None, ["The file gives no balances: it can't be compared with a closing balance."]
    return closing - sum(line.amount for line in given), [
        "The file gives no opening balance: it was worked out from the closing balance."
    ]


def _stood(before: Sequence[Statement], first: date) -> Minor | None:
    """What the account stood at before the statement's first day, by those so far; None where none says."""
    known = [x for x in before if x.first_day <= first and x.closing is not None]
    if not known:
        return None
    latest = max(known, key=lambda x: x.order)
    since = sum(
        line.amount for x in before for line in x.lines if first <= line.day <= latest.last_day
    )
    return (latest.closing or 0) - since


def _gap(
    before: Sequence[Statement],
    opening: Minor | None,
    stood: Minor | None,
    first: date,
    currency: Currency,
) -> list[str]:
    """In words, where the statement does not open at what the account stood at."""
    if stood is None or opening is None or stood == opening:
        return []
    latest = max(
        (x for x in before if x.first_day <= first and x.closing is not None), key=lambda x: x.order
    )
    return [
        f"By the statement to {format_date(latest.last_day)} the account stood at "
        f"{currency.format_amount(stood)}, "
        f"this one opens at {currency.format_amount(opening)} on {format_date(first)}: lines "
        "between them may be "
        "missing."
    ]
