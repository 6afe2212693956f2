"""Build the package: setuptools, and for a wheel the compiler too, since a wheel has the compiled rules in it.

An editable installation has no need of it: there the rules are compiled on first use.
"""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

from setuptools import build_meta
from setuptools.build_meta import *  # noqa: F403  (what is not said here stays as it is)


def get_requires_for_build_wheel(config_settings: Any = None) -> list[str]:
    """Return what building a wheel needs: the compiler, and what the rules import."""
    project = tomllib.loads(Path("pyproject.toml").read_text(encoding="utf-8"))["project"]
    needed = [*project["dependencies"], *project["optional-dependencies"]["compiler"]]
    wanted = ("numpy", "numba", "pydantic", "tomlkit")
    more = [each for each in needed if each.startswith(wanted)]
    return [*build_meta.get_requires_for_build_wheel(config_settings), *more]
