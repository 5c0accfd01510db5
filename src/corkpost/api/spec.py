"""The OpenAPI document and the checking of requests and answers against it."""

from collections.abc import Callable
from datetime import date
from typing import Annotated, Any, cast

from flask.typing import ResponseReturnValue
from pydantic import BaseModel, ConfigDict, Field
from spectree import Response, SpecTree

from corkpost.api.problems import BadRequestBody, Problem
from corkpost.core.periods import FIRST_DAY, LAST_DAY
from corkpost.formats.shape import Shape

View = Callable[..., Any]
Served = Callable[..., ResponseReturnValue]


Day = Annotated[date, Field(ge=FIRST_DAY, le=LAST_DAY)]
"""A day that a request may name."""


class Asked(Shape):
    """What a request may hold: nothing that is not named."""

    model_config = ConfigDict(extra="forbid")


class Nothing(Asked):
    """A deed that says all by its address."""


class AsAt(Asked):
    """At the end of a day; where none is named, of the one that the page is about."""

    at: Day | None = None


class AtDay(Asked):
    """At the end of a day."""

    at: Day


class Done(Shape):
    """The deed is done, and there is nothing else to say."""

    done: bool


DONE = Done(done=True)


def _refuse_bad(_request: Any, _response: Any, wrong: Any, *_: Any) -> None:
    if wrong is not None:
        raise BadRequestBody(wrong)


def _say_bad_answer(_request: Any, _response: Any, wrong: Any, *_: Any) -> None:
    """An answer that does not fit its model is our error; its values stay here."""
    if wrong is not None:
        raise RuntimeError("an answer does not fit its model") from wrong


REFUSED = {
    "description": "It is refused, and says why",
    "content": {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}},
}


class PatientSpec(SpecTree):
    """Describes the models when the document is asked for: to describe three hundred of them at every start
    makes who starts the program wait for a second."""

    def __init__(self, *arguments: Any, **named: Any) -> None:
        super().__init__(*arguments, **named)
        self._waiting: dict[tuple[str, Any], Any] = {}

    def _add_model(self, model: Any, mode: Any = "validation") -> str:
        name: str = self.naming_strategy(model)
        self._waiting[name, mode] = model
        return name

    def _generate_spec(self) -> dict[str, Any]:
        for (_, mode), model in self._waiting.items():
            super()._add_model(model, mode)
        document: dict[str, Any] = super()._generate_spec()
        for path in document["paths"].values():
            for operation in path.values():
                operation["responses"].pop("422", None)
                operation["responses"]["default"] = REFUSED
        return document


spec = PatientSpec(
    "flask",
    mode="strict",
    title="Cork Post",
    version="1",
    before=_refuse_bad,
    after=_say_bad_answer,
    validation_error_model=Problem,
    naming_strategy=lambda model: model.__name__.replace("[", "_").replace("]", ""),
    nested_naming_strategy=lambda _parent, child: child,
)


def answers(
    model: type[BaseModel] | None, tag: str, *, status: int = 200
) -> Callable[[View], Served]:
    """Says what a view answers with; its `json` and `query` arguments say what it asks for.

    *model* None: a file.
    """
    response = Response(**{f"HTTP_{status}": model})
    return cast(Callable[[View], Served], spec.validate(resp=response, tags=[tag]))
