"""Characters that are named somewhere: a unit of an encounter, a member of a party."""

from .entries import Entry, field
from .meaning import AbilityName, ClassName, GearName, HandlingName, OriginName, PlaybookName, TextName
from .quantities import Label, Name


class Character(Entry):
    """Who it is, how it was made (`origin`, `attributes`), what it wears (`gear`) and knows besides (`taught`).

    Playbook and handling are the class's own unless they are written.
    """

    who: ClassName = field(alias="class")
    """The class of the character."""
    name: Label | None = None
    """The name of the character. Without it, the label of the class."""
    origin: OriginName | None = None
    """Where the character comes from."""
    attributes: dict[Name, int] = field(default_factory=dict)
    """The values of its attributes, by name."""
    gear: list[GearName] = field(default_factory=list)
    """What it wears."""
    taught: list[AbilityName] = field(default_factory=list)
    """Abilities that it knows besides those of its class."""
    texts: dict[TextName, Label] = field(default_factory=dict)
    """Texts of its own."""
    playbook: PlaybookName | None = None
    """What it does in a fight. Without it, as its class says."""
    handling: HandlingName | None = None
    """How well it is played. Without it, as its class says."""
