"""`python -m restless_ledger` is the command `restless-ledger`."""

from __future__ import annotations

from .cli.main import run

if __name__ == "__main__":
    run()
