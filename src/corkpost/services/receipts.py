"""Receipts: issued once, sent or handed over, and again as copies."""

from datetime import date
from typing import NamedTuple

from corkpost.core.formatting import format_date
from corkpost.core.receipts import Method, Receipt, receipt_of
from corkpost.core.refusals import UnknownName
from corkpost.formats.letters import letter
from corkpost.services import mail, staff
from corkpost.services.rights import May, Person
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store import receipts as store
from corkpost.store.receipts import Issued


class Standing(NamedTuple):
    """*receipt*: what was issued or, where nothing was, what would be. *now*: what it would say today,
    where that is another thing than was issued. *last_to*: where that party's last one went."""

    receipt: Receipt
    issued: Issued | None
    now: Receipt | None
    last_to: str | None


def standing(
    workplace: Workplace,
    person: Person,
    client_code: str,
    transaction: str,
    method: str | None = None,
) -> tuple[ClientState, Standing]:
    """The receipt of a transaction, as issued or as it would be. Raises NoReceipt."""
    ledger = workplace.ledger(person, client_code)
    posted = ledger.books.transaction(transaction)
    every = store.receipts_of(workplace.database.reading, ledger.client.id)
    issued = next(
        (earlier for earlier in every if earlier.receipt.transaction == transaction), None
    )
    chosen = Method(method) if method else issued.receipt.method if issued else None
    now = receipt_of(ledger.books, ledger.items, posted, chosen)
    went = [
        issue.to_email
        for earlier in every
        if earlier.receipt.party == now.party
        for issue in earlier.issues
        if issue.to_email
    ]
    last_to = went[-1] if went else None
    if issued is None:
        return ledger, Standing(now, None, None, last_to)
    return ledger, Standing(issued.receipt, issued, None if now == issued.receipt else now, last_to)


def issue(
    workplace: Workplace,
    person: Person,
    client_code: str,
    transaction: str,
    *,
    method: str | None = None,
    to: str | None = None,
) -> Issued:
    """Give the receipt out: by mail to an address, else as a file to hand over. The first is the
    receipt, later ones are copies of it. Raises NoReceipt, NoMail (then nothing went out)."""
    person.must_be_allowed(May.POST)
    address = mail.address_of(to) if to else None
    with workplace.database.writing() as connection:
        ledger, found = standing(workplace, person, client_code, transaction, method)
        number = store.number_of(connection, ledger.client.id, transaction)
    if address:
        count = len(found.issued.issues) if found.issued else 0
        _send(workplace, ledger, found, number, count + 1, address)
    with workplace.database.writing() as connection:
        client_id = ledger.client.id
        store.add_issue(
            connection, client_id, number, found.receipt, address, person.code, workplace.now
        )
        every = store.receipts_of(connection, client_id)
    return next(issued for issued in every if issued.number == number)


def _send(
    workplace: Workplace,
    ledger: ClientState,
    found: Standing,
    number: int,
    issue_number: int,
    address: str,
) -> None:
    server = mail.own(workplace.mail)
    receipt, client = found.receipt, ledger.books.client
    copy = " (copy)" if issue_number > 1 else ""
    amount = f"{client.currency.format_amount(receipt.amount)} {client.currency.code}"
    body = (
        f"Dear {receipt.party},\n\n"
        f"thank you for {amount}, received on {format_date(receipt.received_on)}. "
        f"Receipt {number}{copy} is attached.\n\n"
        f"For {client.name},\n{staff.practice(workplace).name}\n"
    )
    first = found.issued.issues[0].made_at if found.issued else None
    mail.send(
        server,
        letter(
            subject=f"Receipt {number}{copy}, {client.name}",
            body=body,
            sender=(staff.practice(workplace).name, server.address),
            to=(receipt.party, address),
            files=((file_name(number, issue_number), _pdf(ledger, receipt, number, first)),),
        ),
    )


def file_name(number: int, issue_number: int) -> str:
    """The name of the file of one issue of a receipt."""
    return f"receipt-{number}{'-copy' if issue_number > 1 else ''}.pdf"


def _pdf(ledger: ClientState, receipt: Receipt, number: int, first: str | None) -> bytes:
    """*first*: when it was issued, where this is a copy."""
    client = ledger.books.client
    # Takes half a second to import: only who wants a paper waits for it.
    from corkpost.pack.receipt_pdf import receipt_pdf

    return receipt_pdf(
        receipt,
        number=number,
        issuer=client.name,
        currency=client.currency,
        copy_of=format_date(date.fromisoformat(first[:10])) if first else None,
    )


def paper(
    workplace: Workplace, person: Person, client_code: str, number: int, issue_number: int
) -> tuple[str, bytes]:
    """Name and content of an issue that went out. Raises UnknownName where none did."""
    ledger = workplace.ledger(person, client_code)
    for issued in store.receipts_of(workplace.database.reading, ledger.client.id):
        if issued.number == number and 1 <= issue_number <= len(issued.issues):
            first = issued.issues[0].made_at if issue_number > 1 else None
            return file_name(number, issue_number), _pdf(ledger, issued.receipt, number, first)
    raise UnknownName("receipt that went out", f"{number}/{issue_number}")
