"""Compile the rules of combat into a wheel, which then fits one platform and every Python."""

import os
import subprocess
import sys
from pathlib import Path

from setuptools import Distribution, setup
from setuptools.command.bdist_wheel import bdist_wheel
from setuptools.command.build_py import build_py

WITHOUT = os.environ.get("RESTLESS_LEDGER_PURE") == "1"
"""Build a wheel without compiled rules: it fits every platform, and needs the compiler there."""


class BuildWithPrograms(build_py):
    """Copies the sources, and compiles the rules from them."""

    def run(self) -> None:
        """Copy the sources; compile unless the installation is editable, or no programs are wanted."""
        super().run()
        if self.editable_mode or WITHOUT:
            return
        made = Path(self.build_lib).resolve()
        print("compiling the rules of combat (about a minute)", flush=True)
        code = "from restless_ledger.engine.making.build import package; package()"
        paths = os.pathsep.join(
            [str(made), *filter(None, sys.path)]
        )  # also what the build requires, wherever that lies
        subprocess.run([sys.executable, "-c", code], check=True, env={**os.environ, "PYTHONPATH": paths})


class PlatformWheel(bdist_wheel):
    """Tags a wheel with its platform alone: the compiled rules know nothing of Python."""

    def get_tag(self) -> tuple[str, str, str]:
        """Return the tag: any Python, no binary interface of Python, this platform."""
        *_, platform = super().get_tag()
        return ("py3", "none", "any") if WITHOUT else ("py3", "none", platform)


class WithPrograms(Distribution):
    """What lies in the wheel is made for a platform."""

    def has_ext_modules(self) -> bool:
        """Say whether the wheel is made for a platform."""
        return not WITHOUT


setup(distclass=WithPrograms, cmdclass={"build_py": BuildWithPrograms, "bdist_wheel": PlatformWheel})
