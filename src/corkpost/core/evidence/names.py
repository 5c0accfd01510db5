"""The words of names and texts."""

import re
from functools import lru_cache

_WORD = re.compile(r"[^\W_]+")
_LEGAL_FORMS = frozenset(
    "LTD LIMITED LLP PLC INC LLC CO COMPANY CORP GMBH AG KG SA SARL SAS BV NV OY AB AS SRL SPA "
    "AND THE OF FOR".split()
)


@lru_cache(maxsize=1 << 16)
def words_of(text: str) -> frozenset[str]:
    """The words of a name or text, upper case, legal forms and small words dropped."""
    return frozenset(_WORD.findall(text.upper())) - _LEGAL_FORMS
