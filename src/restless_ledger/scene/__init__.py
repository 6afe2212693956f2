"""A live character: poked by hand, told of each change, saved and restored."""

from .becoming import Became
from .change import Blink, Change, Pushed
from .character import Borne, LiveCharacter
from .live import Live
from .scene import LiveLedger
from .using import Answer

__all__ = ["Answer", "Became", "Blink", "Borne", "Change", "Live", "LiveCharacter", "LiveLedger", "Pushed"]
