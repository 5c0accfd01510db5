"""More clients than anybody would look at one by one, for a practice of hundreds: two years each."""

import tempfile
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from corkpost.core.books import Books
from corkpost.demo.labelled import labelled
from corkpost.formats.books_folder.writing import write_books
from corkpost.services import books, staff
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace
from corkpost.store.clients import all_clients

FIRST_SEED = 1_000
"""Apart from those that checks are measured on."""
NAMES = (
    "Alderway Bramble Cinderford Dunlow Elmstead Fernhollow Gorsehill Heathervale Inglebrook Juniper "
    "Kestrelgate Larkmead Millrace Nettlecombe Oakshott Pinebank Quarrydale Rowanside Sedgemoor "
    "Thistledown Umberleigh Vinegarth Willowmere Yarrowby"
).split()
TRADES = (
    "Bakery Joinery Dental Florists Optics Removals Roofing Bindery Plumbing Catering Drafting Nursery "
    "Repairs Tailoring Veterinary"
).split()


def add_clients(
    workplace: Workplace, partner: Person, count: int, tell: Callable[[str], None]
) -> None:
    """Take in made-up clients until there are *count*, and give them to the staff in turn."""
    known = {client.code for client in all_clients(workplace.database.reading)}
    people = [row.code for row in staff.everybody(workplace) if row.code != partner.code]
    for number in range(len(known) + 1, count + 1):
        code = f"N{number:03d}"
        if code in known:
            continue
        tell(f"making {code}, {number} of {count}")
        made = client_number(number)
        with tempfile.TemporaryDirectory() as folder:
            to = Path(folder) / code
            write_books(made.client, made.tables, to, created=workplace.now, file_of=Path)
            books.take_in(workplace, partner, to)
        if people:
            staff.give_client(workplace, partner, people[number % len(people)], code, give=True)


def client_number(number: int) -> Books:
    """The books of the *number*th client: the same whenever they are made."""
    made = labelled(FIRST_SEED + number).books
    name = f"{NAMES[number % len(NAMES)]} {TRADES[number // len(NAMES) % len(TRADES)]}"
    return replace(made, client=replace(made.client, code=f"N{number:03d}", name=name))
