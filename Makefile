# Each target sets itself up: a virtual environment in .venv, installed once from pyproject.toml.
PYTHON ?= python3.11
VENV := .venv
BIN := $(VENV)/bin
READY := $(VENV)/.ready

.PHONY: demo test lint browser fast soak fuzz versions versions-lowest versions-newest mutants bench play shots clean

$(READY): pyproject.toml
	@command -v $(PYTHON) >/dev/null || { echo "glent needs Python 3.11 or newer; set PYTHON=/path/to/python" >&2; exit 2; }
	@test -x $(BIN)/python || $(PYTHON) -m venv $(VENV)
	@echo "setting up $(VENV) (once) ..."
	@$(BIN)/python -m pip install --quiet --disable-pip-version-check uv 2>/dev/null \
		&& $(BIN)/uv pip install --quiet --python $(BIN)/python -e '.[dev]' \
		|| $(BIN)/python -m pip install --quiet --disable-pip-version-check -e '.[dev]'
	@touch $(READY)

demo: $(READY)
	@$(BIN)/glent demo --out build/demo

lint: $(READY)
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/lint-imports

# The page of the live view is tested in a real browser, which Debian has; where it cannot be had, its tests say so.
browser:
	@command -v chromium >/dev/null || { test "$$(id -u)" = 0 && command -v apt-get >/dev/null \
		&& echo "setting up Chromium for the tests of the page (once) ..." && apt-get update -qq \
		&& DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends chromium >/dev/null; } \
		|| echo "there is no Chromium, and it cannot be installed here: the tests of the page are left out" >&2

test:
	@$(MAKE) --no-print-directory -j2 lint browser
	$(BIN)/python -m pytest -n auto

fast: $(READY)
	$(BIN)/ruff check .
	$(BIN)/python -m pytest -n auto -m "not long" tests/laws tests/tools/test_routing_house.py tests/tools/test_law_index.py

MINUTES ?= 10
soak: $(READY)
	@$(BIN)/python tests/oracles/soak.py --minutes $(MINUTES)

# The tests with the oldest packages that the bounds allow, and with the newest there are, each in an environment of its own.
versions: versions-lowest versions-newest

versions-lowest versions-newest: versions-%:
	@test -x .venv-$*/bin/python || $(PYTHON) -m venv .venv-$*
	@.venv-$*/bin/python -m pip install --quiet --disable-pip-version-check uv
	@.venv-$*/bin/uv pip install --quiet --python .venv-$*/bin/python \
		$(if $(filter lowest,$*),--resolution lowest-direct,--upgrade) -e '.[dev]'
	@.venv-$*/bin/uv pip list --python .venv-$*/bin/python | grep -iE '^(numpy|click|matplotlib|pydantic|pyyaml|pygame|pyarrow|rich|regex) '
	.venv-$*/bin/python -m pytest -n auto -q -m "not long"

fuzz: $(READY)
	@$(BIN)/python -m pip install --quiet --disable-pip-version-check 'atheris>=2.3' || true
	@PYTHONPATH=tests/oracles $(BIN)/python tests/oracles/fuzz.py --minutes $(MINUTES)

N ?= 100
mutants: $(READY)
	@$(BIN)/python tests/oracles/mutants.py --many $(N)

bench: $(READY)
	@$(BIN)/python benchmarks/cost.py

play: $(READY)
	@$(BIN)/glent play

shots: $(READY)
	@$(BIN)/python examples/shots.py docs/screenshots
	@$(BIN)/python examples/live_shots.py docs/screenshots
	@$(BIN)/python examples/terminal_shots.py docs/screenshots
	@$(BIN)/python examples/gesture_shots.py docs/gestures

clean:
	rm -rf $(VENV) build .pytest_cache .mypy_cache .ruff_cache .hypothesis .import_linter_cache
