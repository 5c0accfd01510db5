"""Recomputes a seal from exported books, without Cork Post: prove_seal.py FOLDER DATE (docs/seal.md)."""

import csv
import hashlib
import json
import sys
from collections import Counter, defaultdict
from datetime import date, timedelta
from decimal import Decimal
from pathlib import Path

folder, at = Path(sys.argv[1]), sys.argv[2]
books = json.loads((folder / "datapackage.json").read_text("utf-8"))["books"]
client = books["client"]


def table(name):
    with (folder / f"{name}.csv").open(encoding="utf-8", newline="") as file:
        return list(csv.DictReader(file))


def row(*cells):
    return json.dumps(list(cells), ensure_ascii=False, separators=(",", ":")) + "\n"


def first_day():
    """Of the financial year that the day is in: as named in the books, else by their year's end."""
    for year in books.get("years", []):
        if year["from"] <= at <= year["to"]:
            return year["from"]
    month, day = map(int, client["year_end"].split("-"))
    if (month, day) == (2, 28):
        month, day = 3, 0
    ends = [date(int(at[:4]) - back, month, 1) + timedelta(day - 1) for back in (0, 1)]
    return str(next(end for end in ends if str(end) < at) + timedelta(1))


entries = {t["id"]: t for t in table("transactions") if t["date"] <= at and t["kind"] != "closing"}
result = {a["code"] for a in table("accounts") if a["type"] in ("income", "expense")}
sums, lines = Counter(), defaultdict(str)
for x in table("lines"):
    if x["transaction"] in entries:
        amount = Decimal(x["debit"] or 0) - Decimal(x["credit"] or 0)
        past = x["account"] in result and entries[x["transaction"]]["date"] < first_day()
        sums["brought-forward" if past else x["account"]] += amount
        fields = ("party", "tax_code", "tax_date", "dimensions", "currency", "foreign_amount")
        cells = (x["line"], x["account"], str(amount), *(x[name] for name in fields))
        lines[x["transaction"]] += row("line", x["transaction"], *cells)
form = row("seal", "2", client["code"], client["currency"], at)
form += "".join(row("balance", code, str(sums[code])) for code in sorted(sums) if sums[code])
for name, t in sorted(entries.items()):
    form += row("entry", name, t["kind"], t["date"], t["entry_kind"]) + lines[name]
fields = "id date party debit_transaction credit_transaction amount foreign_amount undoes".split()
for a in sorted(table("allocations"), key=lambda a: a["id"]):
    form += row("allocation", *(a[name] for name in fields)) if a["date"] <= at else ""
groups = defaultdict(lambda: ([], []))
for g in table("agreements"):
    if g["day"] and g["day"] <= at:
        mine, theirs = groups[g["account"], g["group"]]
        mine += [f"{g['transaction']}#{g['line']}"] if g["transaction"] else []
        theirs += [g["statement_line"]] if g["statement_line"] else []
agreed = (row("agreed", a, *sorted(m), "is", *sorted(t)) for (a, _), (m, t) in groups.items())
form += "".join(sorted(agreed))
print(hashlib.sha256(form.encode()).hexdigest())
