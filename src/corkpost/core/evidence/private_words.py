"""Words that are private or business for this client, learned from its own books.

Nothing is built in but what a cash machine is called: what an owner bought is known from what went to
the owner's accounts before, and from what was moved there since.
"""

from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

from corkpost.core.books import Books, Party, Transaction
from corkpost.core.evidence.names import words_of
from corkpost.core.evidence.said import said_of, statement_words
from corkpost.core.kinds import MONEY_ROLES, OWNER_ROLES, PartyKind, TransactionKind
from corkpost.core.points import CheckRun

MONEY_KINDS = frozenset(
    {
        TransactionKind.DIRECT_PAYMENT,
        TransactionKind.DIRECT_RECEIPT,
        TransactionKind.TRANSFER,
        TransactionKind.JOURNAL,
    }
)
CASH_MACHINE = frozenset(
    "ATM CASHPOINT WITHDRAWAL GELDAUTOMAT BARGELDAUSZAHLUNG RETRAIT DAB".split()
)
COMMON = frozenset(
    "PAYMENT PAYMENTS CARD PURCHASE TRANSFER DIRECT DEBIT CREDIT ONLINE POS VISA ZAHLUNG KARTE "
    "KARTENZAHLUNG LASTSCHRIFT UBERWEISUNG UEBERWEISUNG PAIEMENT CARTE ACHAT VIREMENT TO FROM AT REF NO BY "
    "FOR THE AND BANK BANKING INTERNET MOBILE APP WEB FASTER PMT BGC BACS CHAPS SEPA IBAN BIC STANDING "
    "ORDER MANDATE CONTACTLESS CHIP MASTERCARD MAESTRO DEBITCARD TERMINAL REFERENCE DATE VALUE EUR GBP USD "
    "PLN SEK DKK NOK CHF GIROCARD BUCHUNG KONTO ONLINEBANKING DAUERAUFTRAG GUTSCHRIFT FOLGENR VERFALLD "
    "PRELEVEMENT PRLV CARTE FACTURE EUROS BETALING BETAALPAS PASVOLGNR OVERBOEKING INCASSO PAGO TARJETA "
    "COMPRA TRANSFERENCIA RECIBO PAGAMENTO CARTA BONIFICO ADDEBITO PLATNOSC KARTA PRZELEW "
    "SUMUP STRIPE PAYPAL".split()
)
"""What banks print about a payment: it says nothing of what was bought."""
TEACHING = ("owner-spending", "owner-money-in")
"""Leaving a point of these says that such a text is the business's."""
REGULAR = 3
"""So many costs of one text are the business's habit."""


@dataclass(frozen=True)
class PrivateWords:
    """*owner*: how often a word stood in what went to an owner's account; *business*: in costs and
    income. *texts*: how often a whole text was booked to cost or income."""

    owner: Counter[str]
    business: Counter[str]
    texts: Counter[frozenset[str]]

    def learned(self, words: frozenset[str]) -> tuple[str, ...]:
        """Those of a text's telling words that were the owner's, and hardly ever the business's."""
        return tuple(
            sorted(
                word
                for word in words
                if self.owner[word] and self.business[word] <= max(1, self.owner[word])
            )
        )


@lru_cache(maxsize=1 << 16)
def telling(text: str) -> frozenset[str]:
    """The words that say something: no numbers, none that every payment bears."""
    return frozenset(
        word for word in words_of(text) if len(word) > 2 and word.isalpha() and word not in COMMON
    )


def private_words(books: Books) -> PrivateWords:
    """What the client's books teach, worked out once."""
    found: PrivateWords | None = books.derived.get("private words")
    if found is None:
        rows = books.rows_by(
            "teaching words",
            lambda posted: _teaches(books, posted),
            *MONEY_KINDS,
            ground=statement_words(books),
        )
        # What was put right teaches nothing: neither what it was, nor what we made of it.
        many = {
            key: sum(not books.is_answered(posted.id) for posted in own)
            for key, own in rows.items()
        }
        owner: Counter[str] = Counter()
        business: Counter[str] = Counter()
        texts: Counter[frozenset[str]] = Counter()
        for (whose, words), times in many.items():
            for word in words if times else ():
                (owner if whose == "owner" else business)[word] += times
            if times and whose == "business":
                texts[words] += times
        # An owner's name stands for the owner, not for what was bought; and others may bear it.
        for word in {word for _, parts in _owner_names(books) for word in parts}:
            del owner[word]
        found = books.derived["private words"] = PrivateWords(owner, business, texts)
    return found


def _teaches(books: Books, posted: Transaction) -> Iterator[tuple[str, frozenset[str]]]:
    """Whose words it bears, the owner's or the business's, and which."""
    if posted.change is not None:
        return
    words = telling(said_of(books, posted))
    owners = any(books.accounts[line.account].role in OWNER_ROLES for line in posted.lines)
    business = any(books.accounts[line.account].is_profit_and_loss for line in posted.lines)
    # Of what is shared the text says nothing; its lines do.
    if owners and not business:
        yield "owner", words
    elif business and not owners:
        yield "business", words
    for line in posted.lines if owners and business else ():
        if said := telling(line.description or ""):
            yield "owner" if books.accounts[line.account].role in OWNER_ROLES else "business", said


def left_as_business(left: Iterable[tuple[str, Iterable[Sequence[str]]]]) -> frozenset[str]:
    """The transactions that people left as the business's, of points by check and subjects.

    Only what looked private among costs and income teaches: what stands on an owner's account and was
    left there is the owner's.
    """
    return frozenset(
        name
        for check, subjects in left
        if check in TEACHING
        for role, name in subjects
        if role == "owner"
    )


def said_business(run: CheckRun) -> frozenset[frozenset[str]]:
    """The telling words of each text that people left as the business's: they teach as the books do."""
    books = run.books
    return frozenset(
        telling(said_of(books, books.transactions[name]))
        for name in run.business
        if name in books.transactions
    )


def owner_named(books: Books, text: str) -> Party | None:
    """The owner whom a text names: all of a name, or the last name with an initial that nobody else of that
    name has."""
    names = _owner_names(books)
    words = words_of(text) if names else frozenset()
    for party, parts in names:
        if any("".join(parts) in word for word in words):
            return party
        if parts[-1] not in words:
            continue
        if words.issuperset(parts):
            return party
        shared = (parts[0][0], parts[-1])
        if parts[0][0] in words and shared not in _initials_of_others(books):
            return party
    return None


def _initials_of_others(books: Books) -> frozenset[tuple[str, str]]:
    """Initial and last name of everybody who is no owner: an employee may be of the owner's family."""
    kept: frozenset[tuple[str, str]] | None = books.derived.get("initials of others")
    if kept is None:
        kept = books.derived["initials of others"] = frozenset(
            (parts[0][0], parts[-1])
            for party in books.tables.parties
            if party.kind is not PartyKind.OWNER
            and len(parts := party.name.upper().replace(".", " ").split()) > 1
        )
    return kept


def _owner_names(books: Books) -> tuple[tuple[Party, tuple[str, ...]], ...]:
    """The owners with the parts of each of their names, but for names of one part."""
    kept: tuple[tuple[Party, tuple[str, ...]], ...] | None = books.derived.get("owner names")
    if kept is None:
        kept = books.derived["owner names"] = tuple(
            (party, parts)
            for party in books.tables.parties
            if party.kind is PartyKind.OWNER
            for name in (party.name, *party.aliases)
            if len(parts := tuple(name.upper().replace(".", " ").split())) > 1
        )
    return kept


class Coded(NamedTuple):
    """Money coded straight to income or cost, all of it that says the same. *words*: the telling ones."""

    owner: Party | None
    has_party: bool
    cash_machine: bool
    words: frozenset[str]
    rows: tuple[Transaction, ...]


def coded_money(books: Books, kind: TransactionKind) -> Iterator[Coded]:
    """Money coded straight to income or cost, as received and not put right since."""
    found = books.rows_by(
        f"coded money, {kind}",
        lambda posted: _coded(books, posted),
        kind,
        ground=statement_words(books),
    )
    for (owner, has_party, cash_machine, words), own in found.items():
        rows = tuple(posted for posted in own if not books.is_answered(posted.id))
        if rows:
            named = books.parties[owner] if owner else None
            yield Coded(named, has_party, cash_machine, words, rows)


def _coded(books: Books, posted: Transaction) -> Iterator[tuple[str, bool, bool, frozenset[str]]]:
    if not _is_coded(books, posted):
        return
    text = said_of(books, posted)
    own = books.parties.get(posted.party or "")
    owner = own if own and own.kind is PartyKind.OWNER else owner_named(books, text)
    cash_machine = bool(words_of(text) & CASH_MACHINE)
    yield owner.code if owner else "", own is not None, cash_machine, telling(text)


def _is_coded(books: Books, posted: Transaction) -> bool:
    accounts = [books.accounts[line.account] for line in posted.lines]
    coded = any(account.is_profit_and_loss for account in accounts)
    money = any(account.role in MONEY_ROLES for account in accounts)
    return posted.change is None and coded and money
