"""The checks, a group a file; `names.toml` beside `names.py` says of each what it means."""
