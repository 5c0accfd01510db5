"""Every posting: narrowed, opened both ways, found by anything, corrected by hand."""

import pytest

from corkpost.core.acts import TakeBack
from corkpost.core.by_hand import Picked
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.refusals import BadEntry, Refusal
from corkpost.services import acts, papers, transactions
from corkpost.services.posting import PostRequest
from corkpost.services.transactions import Wanted
from tests.builders import day
from tests.practice import accrue, void_twin


def listed(office, **wanted):
    found = transactions.listed(office.workplace, office["IO"], "SMALL", Wanted(**wanted))
    return [posted.id for posted in found.transactions]


@pytest.mark.parametrize(
    ("wanted", "ids"),
    [
        ({"kind": Kind.PURCHASE_BILL}, ["T3", "T1"]),
        ({"first_day": day("2026-05-20"), "last_day": day("2026-06-01")}, ["T6", "T5"]),
        ({"account": "2200"}, ["T3", "T1"]),
        ({"party": "C1"}, ["T5", "T4"]),
        ({"text": "246"}, ["T2", "T3", "T1"]),
        ({"text": "200.00"}, ["T3", "T1"]),
        ({"text": "reedwharf rw-0117"}, ["T1"]),
        ({"text": "QUOTED"}, ["T6"]),
        ({"ours": True}, []),
        ({"text": "nothing like it"}, []),
    ],
)
def test_the_list_is_narrowed_by_what_is_known(office, wanted, ids):
    assert listed(office, **wanted) == ids


def test_debits_of_a_list_are_what_its_transactions_debit(office):
    found = transactions.listed(office.workplace, office["IO"], "SMALL", Wanted(party="S1"))
    assert found.debits == 3 * 24600


def test_ours_and_received_are_told_apart(office):
    void_twin(office)
    accrue(office)
    assert set(listed(office, ours=True)) == {"C-2026-1", "A-2026-1", "R-2026-1"}
    assert len(listed(office, ours=False)) == 8


def detail(office, name):
    return transactions.detail(office.workplace, office["IO"], "SMALL", name)[1]


def test_a_payment_leads_to_the_bill_it_settled_and_back(office):
    assert [row.other.id for row in detail(office, "T2").settled] == ["T1"]
    assert [row.other.id for row in detail(office, "T1").settled] == ["T2"]
    assert [left for _, left in detail(office, "T1").open] == [0]
    assert [point.check for point in detail(office, "T3").points] == ["duplicate-document"]


def test_a_correction_leads_to_what_it_corrects_and_back(office):
    void_twin(office)
    assert detail(office, "T3").corrected_by == "C-2026-1"
    ours = detail(office, "C-2026-1")
    assert (ours.posted.corrects, ours.change.number, [way.route for way in ours.by_hand]) == (
        "T3", 2, ["move-allocation", "amend-reference"],
    )  # fmt: skip
    acts.post(office.workplace, office["IO"], "SMALL", TakeBack(2), PostRequest("no"))
    assert detail(office, "C-2026-1").undone
    assert detail(office, "T3").corrected_by is None


@pytest.mark.parametrize(
    ("name", "routes"),
    [("T1", ("move-allocation", "reclassify", "void")), ("T3", ("allocate", "reclassify", "void")),
     ("T5", ("allocate", "move-allocation", "reverse-payment", "to-owner", "void")),
     ("T6", ("settle", "to-owner", "reclassify", "void")),
     ("T7", ("settle", "to-owner", "void"))],
)  # fmt: skip
def test_what_can_be_done_by_hand_follows_from_what_it_is(office, name, routes):
    found = detail(office, name).by_hand
    assert [way.route for way in found] == [*routes, "amend-reference"]


def pick(office, route, name, *items, reason="by hand", shown=None):
    chosen = Picked(route, name, items, {})
    plan = acts.preview(office.workplace, office["IO"], "SMALL", chosen).plan
    post_request = PostRequest(reason, shown=shown or plan.digest)
    return acts.post(office.workplace, office["IO"], "SMALL", chosen, post_request)


def test_what_was_picked_is_posted_as_it_was_shown(office):
    posted = pick(office, "allocate", "T5", "T4=60.00")
    assert [(row.debit_transaction, row.amount) for row in posted.allocations] == [("T4", 6000)]
    assert [left for _, left in detail(office, "T4").open] == [4000]
    settled = pick(office, "settle", "T6", "T3")
    assert settled.entries[0].corrects == "T6"
    with pytest.raises(Refusal, match="shown"):
        pick(office, "allocate", "T5", "T4", shown="another")


def test_more_than_is_open_is_not_allocated(office):
    posted = pick(office, "allocate", "T5", "T4=999.00")
    assert posted.allocations[0].amount == 10000
    with pytest.raises(Refusal):
        pick(office, "allocate", "T5", "T4")
    with pytest.raises(BadEntry):
        pick(office, "allocate", "T5", "T4=none")


def test_a_paper_is_kept_as_a_copy_and_comes_back_as_it_went(office):
    papers.keep_paper(office.workplace, office["IO"], "SMALL", "T1", "../b:ill.pdf", b"%PDF")
    (kept,) = office.workplace.ledger(office["IO"], "SMALL").books.tables.attachments
    assert kept.name == "..bill.pdf"
    assert papers.paper(office.workplace, office["TV"], "SMALL", kept.digest).content == b"%PDF"
    with pytest.raises(Refusal, match="empty"):
        papers.keep_paper(office.workplace, office["IO"], "SMALL", "T1", "x", b"")
    with pytest.raises(Refusal):
        papers.paper(office.workplace, office["IO"], "SMALL", "0" * 64)
