# make demo: environment, demo database, server.  make test: everything that must pass.
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin

# what one process compiled, the next one need not: a suite starts dozens
unexport PYTHONDONTWRITEBYTECODE

.PHONY: setup setup-dev demo demo-fresh test lint suite daily check soak bench lock screenshots clean

setup: $(VENV)/.compiled
setup-dev: $(VENV)/.dev $(VENV)/.compiled

$(VENV)/bin/uv: requirements-uv.lock
	$(PYTHON) -m venv $(VENV)
	$(BIN)/pip install -q --disable-pip-version-check --require-hashes -r requirements-uv.lock

$(VENV)/.runtime: requirements.lock pyproject.toml $(VENV)/bin/uv
	$(BIN)/uv pip install -q --python $(BIN)/python --require-hashes -r requirements.lock
	$(BIN)/uv pip install -q --python $(BIN)/python --no-deps --no-build-isolation -e .
	touch $@

# what a study compiles when it first runs, once, so that nobody waits for it later
$(VENV)/.compiled: $(VENV)/.runtime $(wildcard src/spinel/core/compiled/*.py)
	$(BIN)/python scripts/compile.py
	touch $@

$(VENV)/.dev: requirements-dev.lock $(VENV)/.runtime
	$(BIN)/uv pip install -q --python $(BIN)/python --require-hashes -r requirements-dev.lock
	sh scripts/browser.sh
	touch $@

demo: setup
	$(BIN)/spinel demo --serve

demo-fresh: setup
	$(BIN)/spinel demo --fresh --serve

# types are read while the tests run
test: setup-dev
	sh scripts/browser.sh
	$(MAKE) --no-print-directory -j2 lint suite

lint: setup-dev
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/djlint --quiet --check src/spinel/web/templates
	$(BIN)/djlint --quiet --lint src/spinel/web/templates
	$(BIN)/mypy

# the browser tests on two workers of three, with a server each: while they wait for a page the others work
suite: setup-dev
	$(BIN)/pytest -n 3 --dist loadscope --no-loadscope-reorder tests src/spinel/core

# For every day: lint, types, core and actions.
check: setup-dev
	$(MAKE) --no-print-directory -j2 lint daily

daily: setup-dev
	$(BIN)/pytest -q -n 2 --dist loadfile -m "not long" tests/test_layers.py tests/core tests/actions src/spinel/core

# Long proofs over many generated sites; seeds are printed. Fifty people at work first, alone on the machine.
soak: setup-dev
	SOAK=1 $(BIN)/pytest -s tests/test_load.py
	SOAK=1 $(BIN)/pytest -s -n 2 tests/reference/test_clearing_simulation.py tests/core/test_switching.py \
		tests/core/test_crews.py tests/core/test_mutations.py tests/core/test_rule_mutants.py tests/core/test_meanwhile.py tests/actions/test_switchings.py tests/actions/test_their_paper.py tests/test_releases.py tests/test_kill.py tests/e2e/test_crews_walk.py tests/e2e/test_scenarios_walk.py tests/e2e/test_screens.py tests/core/test_threads.py tests/core/test_study.py tests/core/test_situations.py tests/core/test_profile.py tests/core/test_protection.py tests/core/test_solution.py tests/core/test_inverse.py tests/reference/test_ieee1584_2018.py tests/wording/test_numbers.py tests/actions/test_search.py tests/actions/test_revisions.py tests/core/test_differences.py

bench: setup-dev
	$(BIN)/python -m bench

screenshots: setup-dev
	$(BIN)/python scripts/screenshots.py

# Needs the registry. The lock files name packages and hashes only, never an address.
lock:
	$(BIN)/uv pip compile pyproject.toml --group build --python-version 3.11 --generate-hashes -q -o requirements.lock
	$(BIN)/uv pip compile pyproject.toml --group build --group dev --python-version 3.11 --generate-hashes -q -o requirements-dev.lock

# whatever somebody recorded stays: a database is deleted by hand, or not at all
clean:
	rm -rf $(VENV) build
