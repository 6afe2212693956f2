"""The languages that rules can be written in."""

from .c import CWriter
from .csharp import CSharpWriter
from .javascript import JavaScriptWriter
from .lua import LuaWriter
from .python import PythonWriter
from .writer import Writer

WRITERS: dict[str, type[Writer]] = {
    writer.language: writer for writer in (CWriter, CSharpWriter, JavaScriptWriter, LuaWriter, PythonWriter)
}

__all__ = ["WRITERS", "Writer"]
