"""What else happens in a client's books: what only looks like a fault, and faults that touch each other."""

from corkpost.demo.untidy import compound, look_alikes, look_alikes_of_habit
from corkpost.demo.untidy.scene import Scene

ALIKE = (*look_alikes.KINDS, *look_alikes_of_habit.KINDS)
EACH, WRONG = 24, 4
"""So many kinds of look-alikes, and of faults, happen to each client."""


def happen(scene: Scene) -> None:
    """Some of them, drawn for this client."""
    for alike in scene.keeper.rng.sample(ALIKE, EACH):
        alike(scene)
    for wrong in scene.keeper.rng.sample(compound.KINDS, WRONG):
        wrong(scene)
