"""The demo practice: Quay & Lantern, its staff, its clients, taken in through the usual import."""

import tempfile
from collections.abc import Callable, Mapping
from datetime import date, datetime
from functools import partial
from importlib import import_module
from pathlib import Path

from corkpost.core.acts import AgreeSure
from corkpost.core.approval import ApprovalRule
from corkpost.core.assets.register import KeepAssets, offered
from corkpost.core.closing import CloseYear
from corkpost.core.entries import EntryLine, EntryRequest
from corkpost.core.kinds import AccountType, EntryKind, PeriodState, Role
from corkpost.core.marks import MarkKind
from corkpost.core.money import Currency
from corkpost.core.points import Level
from corkpost.core.rates import AddRates
from corkpost.core.remarks import About
from corkpost.core.seal import sealed_balances
from corkpost.core.tie_outs.agreeing import AgreeTieOut, stated_tie_outs
from corkpost.demo import tama
from corkpost.demo.arrivals import ARRIVALS, LAST, NEXT, Arrival
from corkpost.demo.bank import issued
from corkpost.demo.client import Business
from corkpost.formats.acts import EntryAct, PointAct
from corkpost.services import (
    acts,
    approvals,
    bank,
    books,
    entries,
    find,
    listings,
    periods,
    queries,
    remarks,
    review,
    sign_off,
    staff,
)
from corkpost.services.keeping_up import bring_up_to_date
from corkpost.services.mail import Mail
from corkpost.services.posting import PostRequest
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace
from corkpost.stand_ins.bank import Bank, Issued
from corkpost.stand_ins.mailbox import Said, StandInMail
from corkpost.stand_ins.statement_files import BankLine
from corkpost.store.clients import client_named

TODAY = date(2026, 11, 16)
CREATED = datetime(2026, 11, 2, 9, 30)
PRACTICE = "Quay & Lantern"

STAFF: Mapping[str, tuple[str, Role, str, tuple[str, ...]]] = {
    "OB": ("Orla Brandt", Role.PARTNER, "lantern-orla", ()),
    "TV": (
        "Tomas Vell",
        Role.REVIEWER,
        "lantern-tomas",
        (
            "SALT",
            "BRIG",
            "COPP",
            "HOLL",
            "FENN",
            "TIDE",
            "MOOR",
            "KILN",
            "TAMA",
            "GULL",
            "PEBB",
            "MERI",
            "TEAL",
            "ROST",
        ),
    ),
    "IO": (
        "Ines Okonjo",
        Role.PREPARER,
        "lantern-ines",
        ("SALT", "COPP", "HOLL", "MOOR", "TAMA", "MERI", "TEAL"),
    ),
    "PH": (
        "Pell Harrow",
        Role.PREPARER,
        "lantern-pell",
        ("BRIG", "FENN", "TIDE", "KILN", "GULL", "PEBB", "ROST"),
    ),
}
SIGN_INS = tuple(
    f"sign in as {code} ({name}, {role}) with {password}"
    for code, (name, role, password, _) in STAFF.items()
)


def _business(code: str) -> Business:
    """What a client's file makes: imported when it is made, since a practice that stands needs none."""
    made: Business = import_module(f"corkpost.demo.{code.lower()}").business()
    return made


CLIENTS: Mapping[str, Callable[[], Business]] = {
    code: partial(_business, code)
    for code in ("SALT", "BRIG", "COPP", "HOLL", "FENN", "TIDE", "MOOR", "KILN", "TAMA", "GULL", "PEBB",
                 "MERI")
}  # fmt: skip


def stand_in_bank() -> Bank:
    """The bank of the demo's clients, which goes on issuing statements after their books end."""
    return Bank(_issued)


def _issued() -> tuple[Issued, ...]:
    found = []
    for number, code in enumerate(("SALT", "HOLL", "FENN"), 1):
        business = CLIENTS[code]()
        books_, _ = business.books()
        late = BankLine(date(2026, 10, 30), 100 + number, "INTEREST", bank_id=f"LATE{number}")
        for banked in business.bank(books_, date(2026, 12, 31)) if business.bank else ():
            found.append(issued(banked, late, date(2026, 11, 3)))
    return tuple(found)


def client_says(number: int, question: str) -> Said | None:
    """What the contact of a demo client answers; some questions are passed over at first."""
    words = question.lower()
    for known, said in ANSWERS:
        if known in words:
            return said
    return None if number % 5 == 0 else ANSWERS[-1][1]


CONTACTS = {
    "SALT": ("Mara Salt", "mara@saltmarsh.example"),
    "HOLL": ("Edda Holloway", "edda@hollowoak.example"),
    "BRIG": ("Ned Brightwater", "ned@brightwater.example"),
    "COPP": ("Cass Bellamy", "cass@copperbell.example"),
    "FENN": ("Bea Fennel", "bea@fennelthorn.example"),
    "TIDE": ("Nell Hawkins", "nell@ninetides.example"),
    "MOOR": ("Hal Ferrow", "hal@moorlandhoney.example"),
    "KILN": ("Juno Reyes", "juno@lanternkiln.example"),
    "TAMA": ("Sela Tamar", "sela@tamarisk.example"),
    "GULL": ("Wren Abbot", "accounts@gullwing.example"),
    "PEBB": ("Ada Pebble", "ada@pebblepine.example"),
    "MERI": ("Corin Ashe", "corin@meridianplayers.example"),
    "TEAL": ("Wilf Teal", "wilf@tealbindery.example"),
    "ROST": ("Anke Brandt", "anke@roesterei-brandt.example"),
}
"""Who answers for each client."""
ADDRESS = "books@quayandlantern.example"
ANSWERS: tuple[tuple[str, Said], ...] = (
    ("cheque", Said("It got lost in the post. The bank stopped it; I have not sent another yet.")),
    (
        "private",
        Said("Sorry, that one was for the house. I used the wrong card.", None),
    ),
    (
        "receipt",
        Said(
            "That was for the July hire. I attach what they sent with it.",
            ("remittance July.txt", b"Remittance advice: July hire, paid by transfer."),
        ),
    ),
    ("twice", Said("There was one delivery only; they sent the bill again by mail.")),
    ("", Said("I looked: it is as you say. Please put it right.")),
)


def make(
    workplace: Workplace,
    tell: Callable[[str], None] = lambda _: None,
    *,
    leave_out: frozenset[str] = frozenset(),
) -> None:
    """Make the demo practice where there is none yet; leave one that is there as it is.

    *leave_out*: clients that are not wanted.
    """
    if staff.has_staff(workplace):
        return
    name, _, password, _ = STAFF["OB"]
    partner = staff.found_practice(workplace, PRACTICE, ("OB", name, password), is_demo=True)
    for code, (name, role, password, _) in STAFF.items():
        if code != partner.code:
            staff.add_staff(workplace, partner, code, name, role, password)
    with tempfile.TemporaryDirectory() as folder:
        wanted = {code: made for code, made in CLIENTS.items() if code not in leave_out}
        for number, (code, business) in enumerate(wanted.items(), 1):
            tell(f"making {code}, {number} of {len(wanted)}")
            business().write(Path(folder) / code, CREATED)
            books.take_in(workplace, partner, Path(folder) / code)
    arrived = {code: made for code, made in ARRIVALS.items() if code not in leave_out}
    for code, arrival in arrived.items():
        tell(f"taking in what {arrival.name} sent")
        _arrived(workplace, partner, code, arrival)
    for code, (_, _, _, clients) in STAFF.items():
        for client in (wanted.keys() | arrived.keys()) & set(clients):
            staff.give_client(workplace, partner, code, client, give=True)
    for code in (*wanted, *arrived):
        queries.set_contact(workplace, partner, code, *CONTACTS[code])
    tell("beginning the review of SALT")
    _half_reviewed(workplace)
    _bank_agreed(workplace, staff.person_named(workplace, "PH"), "FENN", date(2026, 9, 1))
    tell("beginning the review of HOLL")
    _waits_for_an_answer(workplace)
    tell("beginning the review of the others")
    _all_but_asked(workplace)
    _waived_and_left(workplace)
    _handed_in(workplace)
    _barred(workplace)
    _closed_again(workplace)
    _registers(workplace)
    _read_by_a_second_person(workplace)
    tell("signing MERI off")
    _signed_and_changed(workplace)
    # The desk keeps what it says of each client: so it opens at once.
    tell("looking through the clients")
    bring_up_to_date(workplace)
    find.catch_up(workplace)


def _arrived(workplace: Workplace, partner: Person, code: str, arrival: Arrival) -> None:
    """Take in the files of a client's bookkeeper, as they came; the next ones lie beside them."""
    folder = workplace.database.folder / "arrived" / code
    files = arrival.write(folder, LAST)
    new = listings.NewClient(arrival.name, arrival.entity, (12, 31), Currency("EUR"))
    outcome = listings.take_in(workplace, partner, code, files, new=new)
    if outcome.taken is None:
        raise RuntimeError(f"what {code} sent asks {outcome.questions}")
    arrival.write(folder / "next", NEXT)


def widen(workplace: Workplace, count: int, tell: Callable[[str], None]) -> None:
    """Add small clients until the practice has *count*; those that are there stay as they are."""
    from corkpost.demo.many import add_clients

    add_clients(workplace, staff.person_named(workplace, "OB"), count, tell)
    tell("looking through the clients")
    bring_up_to_date(workplace)
    find.catch_up(workplace)


def _bank_agreed(workplace: Workplace, person: Person, client: str, before: date) -> None:
    """The statements that end before that day are agreed and finished."""
    accounts = bank.accounts(workplace, person, client)
    for state in (listed for account in accounts for listed in account.statements):
        if state.statement.last_day < before:
            code, number = state.statement.account, state.statement.number
            acts.post(
                workplace, person, client, AgreeSure(code, number, Level.LIKELY), PostRequest("")
            )
            bank.finish(workplace, person, client, code, number)


def _waits_for_an_answer(workplace: Workplace) -> None:
    """HOLL: the bank agreed to July, and a question about a cheque that never came."""
    ines = staff.person_named(workplace, "IO")
    _bank_agreed(workplace, ines, "HOLL", date(2026, 8, 1))
    for stated in review.points(workplace, ines, "HOLL"):
        if stated.point.check == "bank-not-presented" and stated.point.amount > 0:
            question = "Was this cheque lost or stopped? The supplier's bill counts as paid by it."
            review.decide(workplace, ines, "HOLL", stated.point.id, "ask", question)
    _send(workplace, ines, "HOLL")


def _put_right(
    workplace: Workplace,
    person: Person,
    client: str,
    point: str,
    route: str,
    settings: Mapping[str, str],
) -> None:
    """By a route with the reason that it proposes."""
    act = PointAct(act="point", point=point, route=route, settings=dict(settings))
    reason = acts.preview(workplace, person, client, act).plan.proposed_reason
    acts.post(workplace, person, client, act, PostRequest(reason))


def _all_but_asked(workplace: Workplace) -> None:
    """TAMA: everything is put right but for one receipt, about which the client was asked; its
    statements are agreed to September."""
    ines = staff.person_named(workplace, "IO")
    if not ines.sees("TAMA"):
        return
    _bank_agreed(workplace, ines, "TAMA", date(2026, 10, 1))
    for stated in review.points(workplace, ines, "TAMA"):
        point = stated.point
        if point.check == "owner-money-in":
            question = "Was this your own money, put in for a while, or did somebody pay you?"
            review.decide(workplace, ines, "TAMA", point.id, "ask", question)
            continue
        way = review.case(workplace, ines, "TAMA", point.id).prepared[0]
        _put_right(workplace, ines, "TAMA", point.id, way.option.route, way.option.settings)
    _send(workplace, ines, "TAMA")


def _send(workplace: Workplace, person: Person, client: str) -> None:
    """What was asked goes out to a contact who says nothing yet."""
    silent = StandInMail(lambda _number, _question: None)
    silent.start()
    workplace.mail = Mail(silent.out, silent.into, ADDRESS)
    numbers = [query.number for query in queries.board(workplace, person, client).queries]
    queries.send(workplace, person, client, numbers)
    workplace.mail = None
    silent.stop()


def _waived_and_left(workplace: Workplace) -> None:
    """MOOR: small errors are waived, and one point is left with its reason."""
    ines = staff.person_named(workplace, "IO")
    for stated in review.points(workplace, ines, "MOOR"):
        if stated.point.check in ("cut-off", "unusual-account"):
            reason = "Too small to correct; looked at with the treasurer."
            review.decide(workplace, ines, "MOOR", stated.point.id, "waive", reason)
        elif stated.point.check == "wrong-item":
            reason = "They wrote that the older one was meant; the number quoted was a slip."
            review.decide(workplace, ines, "MOOR", stated.point.id, "leave", reason)


def _handed_in(workplace: Workplace) -> None:
    """BRIG: Pell is new to journals, so that each of theirs is looked at; one waits."""
    staff.set_approval(
        workplace, staff.person_named(workplace, "OB"), "PH", ApprovalRule(journals=True)
    )
    pell = staff.person_named(workplace, "PH")
    if not pell.sees("BRIG"):
        return
    chart = {a.name: a.code for a in workplace.ledger(pell, "BRIG").books.tables.accounts}
    blank = {"party": "", "tax_code": "", "tax": "none", "text": "", "dimensions": ""}
    act = EntryAct.model_validate(
        {
            "act": "entry",
            "near": "2026-10-31",
            "entry": {
                "kind": "adjusting",
                "date": "31.10",
                "reverse_on": "1.11",
                "reference": "",
                "reason": "Electricity for October, by the meter; the bill comes in December",
                "lines": [
                    {**blank, "account": chart["Heat and light"], "debit": "486", "credit": ""},
                    {**blank, "account": chart["Accruals"], "debit": "", "credit": "486"},
                ],
            },
        }
    )
    shown = acts.preview(workplace, pell, "BRIG", act).plan.digest
    approvals.hand_in(workplace, pell, "BRIG", act, reason=act.entry.reason, shown=shown)


def _barred(workplace: Workplace) -> None:
    """PEBB: the tax of the first quarter is returned, and its months are barred."""
    tomas = staff.person_named(workplace, "TV")
    if tomas.sees("PEBB"):
        for month in (1, 2, 3):
            why = "sales tax of the first quarter is returned"
            day = date(2026, month, 1)
            periods.set_period(workplace, tomas, "PEBB", day, PeriodState.BARRED, why)


def _closed_again(workplace: Workplace) -> None:
    """FENN: its bookkeeper closed the year by share alone; Tomas closes it again, after the salary that the
    partners' agreement gives Bea Fennel."""
    if client_named(workplace.database.reading, "FENN") is None:
        return
    tomas = staff.person_named(workplace, "TV")
    again = CloseYear("2026", salaries={"3310": 600_000})
    reason = "By the agreement Bea has 6,000.00 a year before the profit is shared"
    acts.post(workplace, tomas, "FENN", again, PostRequest(reason))


def _registers(workplace: Workplace) -> None:
    """KILN's assets are in the register, as its books bought them; TAMA's closing rates are keyed."""
    ines, pell = (staff.person_named(workplace, code) for code in ("IO", "PH"))
    if client_named(workplace.database.reading, "KILN") is not None:
        found = offered(workplace.ledger(pell, "KILN").books)
        named = tuple(row._replace(name=ASSETS.get(row.account, row.name)) for row in found)
        acts.post(workplace, pell, "KILN", KeepAssets(named), PostRequest(""))
    if client_named(workplace.database.reading, "TAMA") is not None:
        acts.post(workplace, ines, "TAMA", AddRates(tuple(tama.rates())), PostRequest(""))


ASSETS = {"0100": "Gas kiln, two wheels and the pug mill"}


def _read_by_a_second_person(workplace: Workplace) -> None:
    """TAMA: Ines has agreed what proves and marked the income; Tomas read it, and asks about one line."""
    if client_named(workplace.database.reading, "TAMA") is None:
        return
    ines, tomas = (staff.person_named(workplace, code) for code in ("IO", "TV"))
    at = date(2026, 10, 31)
    ledger = workplace.ledger(ines, "TAMA")
    for stated_point in stated_tie_outs(ledger.books, at):
        proof = stated_point.tie_out
        if proof.outside is not None and not proof.difference and not proof.lacks:
            acts.post(workplace, ines, "TAMA", AgreeTieOut(proof.id, at, ""), PostRequest("agreed"))
    balance = {row.account: row.balance for row in sealed_balances(ledger.books, at).rows}
    income = [a.code for a in ledger.books.tables.accounts if a.type is AccountType.INCOME]
    for code in income:
        remarks.mark(workplace, ines, "TAMA", code, at, MarkKind.PREPARED, balance.get(code, 0))
    for code in income[:1]:
        remarks.mark(workplace, tomas, "TAMA", code, at, MarkKind.REVIEWED, balance.get(code, 0))
    for item in ("letter", "accounts"):
        sign_off.tick(workplace, ines, "TAMA", at, item, done=True)
    words = "Which customers are billed in dollars now? The split moved since last year."
    remarks.remark(workplace, tomas, "TAMA", About.ACCOUNT, income[0], words, asks=True)


def _signed_and_changed(workplace: Workplace) -> None:
    """MERI: the year's points are decided, Tomas signs it, and the bookkeeper gives the books out again
    with a cost more in it."""
    ines, tomas = staff.person_named(workplace, "IO"), staff.person_named(workplace, "TV")
    for stated in review.points(workplace, ines, "MERI"):
        point = stated.point
        _put_right(workplace, ines, "MERI", point.id, "void", {})
    from corkpost.demo import meri

    ledger = workplace.ledger(ines, "MERI")
    for stated_point in stated_tie_outs(ledger.books, meri.YEAR_END):
        proof = stated_point.tie_out
        letter = proof.books if proof.outside is None else None
        note = "the bank's letter of 2 September" if letter is not None else ""
        act = AgreeTieOut(proof.id, meri.YEAR_END, note, letter)
        acts.post(workplace, ines, "MERI", act, PostRequest(note))
    for stated_item in sign_off.checklist(workplace, ines, "MERI", meri.YEAR_END):
        sign_off.tick(workplace, ines, "MERI", meri.YEAR_END, stated_item.item.id, done=True)
    sign_off.sign_off(workplace, tomas, "MERI", meri.YEAR_END, STAFF["TV"][2])
    with tempfile.TemporaryDirectory() as folder:
        meri.business(changed=True).write(Path(folder) / "MERI", CREATED)
        books.take_in(workplace, staff.person_named(workplace, "OB"), Path(folder) / "MERI")


def _half_reviewed(workplace: Workplace) -> None:
    """What the preparer has done in SALT so far: a few points, an accrual, a question, a draft."""
    ines = staff.person_named(workplace, "IO")
    _bank_agreed(workplace, ines, "SALT", date(2026, 9, 1))
    corrected = 0
    for stated in review.points(workplace, ines, "SALT"):
        point = stated.point
        if point.check == "unallocated" and corrected < 2:
            corrected += 1
            _put_right(workplace, ines, "SALT", point.id, "allocate", {})
        elif point.check == "invoice-received-direct":
            question = "Was this receipt for the July invoice, or for the extra hire in August?"
            review.decide(workplace, ines, "SALT", point.id, "ask", question)
    electricity = EntryRequest(
        kind=EntryKind.ADJUSTING,
        posting_date=date(2026, 9, 30),
        reason="Electricity to 30 September not yet billed; by the meter",
        lines=(
            EntryLine("5310", 38_800, description="meter to 40,905"),
            EntryLine("2210", -38_800),
        ),
        reverse_on=date(2026, 10, 1),
    )
    acts.post(workplace, ines, "SALT", electricity, PostRequest(""))
    insurance = EntryRequest(
        kind=EntryKind.ADJUSTING,
        posting_date=date(2026, 10, 31),
        reason="Insurance paid to January: November to January belong to later months",
        lines=(EntryLine("1400", 30_642), EntryLine("6400", -30_642)),
        reverse_on=date(2026, 11, 1),
    )
    acts.post(workplace, ines, "SALT", insurance, PostRequest(""))
    entries.keep_draft(workplace, ines, "SALT", DRAFT, "electricity10")


DRAFT = {
    "kind": "adjusting",
    "date": "31.10",
    "reverse_on": "np",
    "reference": "",
    "reason": "Electricity to 31 October not yet billed; by September's bill and the meter",
    "lines": [
        {
            "account": "5310",
            "party": "",
            "debit": "1639*0.25",
            "credit": "",
            "tax_code": "",
            "tax": "none",
            "text": "meter 41,207 to 42,846",
            "dimensions": "",
        }
    ],
}
