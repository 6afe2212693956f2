# Each target makes its own environment in .venv on first use. Only Python 3.11 or newer and make are needed.

PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
INSTALLED := $(VENV)/installed
READY := $(VENV)/ready
OLDEST := .venv-oldest
MINIMUM := $(OLDEST)/ready
PYRIGHT := 1.1.406

.PHONY: demo test smoke installed prove check bench bench-quick bench-keep screenshots reference docs wheel clean

demo: $(INSTALLED)
	$(BIN)/restless-ledger demo --out demo-out

test: $(READY)
	$(BIN)/python -W error::ResourceWarning -m tests.run

smoke: $(MINIMUM)
	$(OLDEST)/bin/python -m tests.smoke

# A wheel as users install it, in an environment of its own without the compiler, and a fight outside of the source.
installed:
	rm -rf dist .venv-user
	$(PYTHON) -m pip wheel --quiet --disable-pip-version-check --no-deps --wheel-dir dist .
	$(PYTHON) -m venv .venv-user
	.venv-user/bin/python -m pip install --quiet --disable-pip-version-check dist/*.whl
	cd dist && ../.venv-user/bin/restless-ledger fight demo stair_duel --why 4
	cd dist && ../.venv-user/bin/restless-ledger trials demo stair_duel --fights 1000
	! .venv-user/bin/python -c "import numba" 2>/dev/null
	rm -rf .venv-user

prove: $(READY)
	$(BIN)/python -m tests.prove

check: $(READY)
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/mypy --strict examples
	@if npm view pyright@$(PYRIGHT) version >/dev/null 2>&1; \
	then npx --yes pyright@$(PYRIGHT) --pythonpath $(BIN)/python examples; \
	else echo "pyright is left out: npm can not install it here"; fi
	$(BIN)/lint-imports --no-logo
	$(BIN)/mkdocs build --strict --quiet

bench: $(READY)
	$(BIN)/python benchmarks/run.py

# At a release: the same, kept by version in benchmarks/history.
bench-keep: $(READY)
	$(BIN)/python benchmarks/run.py --keep

bench-quick: $(READY)
	$(BIN)/python benchmarks/run.py --quick

screenshots: $(READY)
	bash docs/make-screenshots.sh $(BIN)

wheel:
	$(PYTHON) -m pip wheel --quiet --disable-pip-version-check --no-deps --wheel-dir dist .

$(INSTALLED): pyproject.toml
	@echo "Installing what Restless Ledger needs into $(VENV) (about a minute) …"
	@$(PYTHON) -m venv $(VENV)
	@$(BIN)/python -m pip install --quiet --disable-pip-version-check --editable ".[compiler]"
	@touch $(INSTALLED)

$(READY): $(INSTALLED)
	@echo "Installing the tools of development (about a minute) …"
	@$(BIN)/python -m pip install --quiet --disable-pip-version-check --editable ".[dev]"
	@touch $(READY)

$(MINIMUM): pyproject.toml tests/minimums.txt
	$(PYTHON) -m venv $(OLDEST)
	$(OLDEST)/bin/python -m pip install --quiet --disable-pip-version-check --constraint tests/minimums.txt --editable ".[compiler]"
	touch $(MINIMUM)

reference: $(READY)
	$(BIN)/python docs/pages.py

docs: $(READY)
	$(BIN)/mkdocs build --strict --quiet

clean:
	rm -rf $(VENV) $(OLDEST) .venv-user demo-out build dist .mypy_cache .ruff_cache .hypothesis
	find src tests benchmarks examples -name __pycache__ -prune -exec rm -rf {} +
