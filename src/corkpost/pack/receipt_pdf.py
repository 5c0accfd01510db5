"""A receipt on paper."""

from corkpost.core.formatting import format_date
from corkpost.core.money import Currency
from corkpost.core.receipts import Receipt
from corkpost.pack.paper import DISPLAY, STRONG, figures, paper, space, style, words


def receipt_pdf(
    receipt: Receipt, *, number: int, issuer: str, currency: Currency, copy_of: str | None
) -> bytes:
    """The receipt as a PDF. *issuer*: whose business received the money. *copy_of*: the day on which
    it was first issued, where this is a copy."""
    money = currency.format_amount
    rows = [("Received on", format_date(receipt.received_on)), ("By", receipt.method.value)]
    if receipt.reference:
        rows.append(("Reference", receipt.reference))
    settles = [
        (part.reference, format_date(part.day), money(part.amount)) for part in receipt.settles
    ]
    if receipt.on_account:
        settles.append(("On account", "", money(receipt.on_account)))
    title = f"Receipt {number}" + (" (copy)" if copy_of else "")
    story = [
        words(issuer, style(STRONG, 12)),
        space(10),
        words(title, style(DISPLAY, 22)),
        space(4),
        *(
            [words(f"COPY of the receipt issued on {copy_of}", style(STRONG, 11))]
            if copy_of
            else []
        ),
        space(4),
        words("Received from", style(quiet=True)),
        words(receipt.party, style(STRONG, 13)),
        space(3),
        words(f"{money(receipt.amount)} {currency.code}", style(STRONG, 18)),
        space(5),
        figures(rows, (40, 120), figures_from=2),
        space(6),
        words("What it settles", style(STRONG, 11)),
        space(1),
        figures([*settles, ("Together", "", money(receipt.amount))], (80, 40, 40), figures_from=2),
    ]
    return paper(story, title=f"{title}, {issuer}", foot=f"{issuer} · {title}")
