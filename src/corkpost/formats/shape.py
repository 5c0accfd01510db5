"""What answers and requests are made of."""

from pydantic import BaseModel, ConfigDict


class Shape(BaseModel):
    """A request or an answer. It is built when it is first used: building all of them would make every
    start of the program wait."""

    model_config = ConfigDict(defer_build=True)
