PORT ?= 8765
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
CHROMIUM := /usr/bin/chromium
PYTEST := $(BIN)/pytest -n 3 --dist load --maxschedchunk 2

# Byte code is kept even where the machine says otherwise: it halves the time to start.
export PYTHONDONTWRITEBYTECODE =

.PHONY: demo serve test walks lint bench mutants outcomes crash fuzz shots styles clean browser

# Stamps keep both commands working offline once everything is installed.
$(VENV)/app.stamp: requirements/app.txt pyproject.toml
	@test -x $(BIN)/python || $(PYTHON) -m venv $(VENV)
	$(BIN)/python -m pip install --quiet --disable-pip-version-check --require-hashes -r requirements/app.txt
	$(BIN)/python -m pip install --quiet --disable-pip-version-check --no-deps --no-build-isolation -e .
	@touch $@

$(VENV)/test.stamp: requirements/test.txt $(VENV)/app.stamp
	$(BIN)/python -m pip install --quiet --disable-pip-version-check --require-hashes -r requirements/test.txt
	@touch $@

demo: $(VENV)/app.stamp
	$(BIN)/uranograph demo --port $(PORT)

serve: $(VENV)/app.stamp
	$(BIN)/uranograph serve --port $(PORT)

browser:
	@test -x $(CHROMIUM) || { \
	  echo "Chromium is missing; installing Debian's."; \
	  (apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium) >/dev/null 2>&1; }
	@test -x $(CHROMIUM) || { \
	  echo "The browser tests need Debian's Chromium at $(CHROMIUM): run 'apt-get install chromium' with the rights to do so."; \
	  exit 1; }

lint: $(VENV)/test.stamp
	$(BIN)/ruff check src tests
	$(BIN)/ruff format --check src tests
	$(BIN)/mypy
	$(BIN)/lint-imports

test: $(VENV)/test.stamp browser lint
	$(PYTEST) --ignore tests/walks -m "not live"
	$(BIN)/pytest -n 2 --dist load --maxschedchunk 1 -m live tests/browser

# What goes through all views, all stations or whole jobs, at every size, speed and light.
walks: $(VENV)/test.stamp browser
	$(PYTEST) tests/walks

bench: $(VENV)/test.stamp browser
	$(BIN)/python -m tests.bench_speed

# The changes that are kept, then CHANGES=100 drawn at random with SEED=1: under 5 % of those may go unnoticed.
mutants: $(VENV)/test.stamp
	$(BIN)/python -m tests.mutants
	$(BIN)/python -m tests.random_mutants $(or $(CHANGES),100) $(or $(SEED),1)

# `make outcomes SEED=7 ENGINES=3000`: how often the judgment is right on made-up engines; fails where a bound is missed.
outcomes: $(VENV)/test.stamp
	$(BIN)/python -m tests.outcomes $(or $(ENGINES),3000) $(or $(SEED),1)

# `make crash ROUNDS=20 SEED=7`: the server killed and power cut so often; fails where anything told as recorded is lost.
crash: $(VENV)/test.stamp
	$(BIN)/python -m tests.crash $(or $(ROUNDS),100) $(or $(SEED),1)

# `make fuzz REQUESTS=2000 SEED=7`: whatever can be sent, then every page; fails where anything is answered with 500 or more.
fuzz: $(VENV)/test.stamp
	$(BIN)/python -m tests.fuzz $(or $(REQUESTS),20000) $(or $(SEED),1)

# Cuts the style framework, whole in styles/, to what the pages use; a test says when it is due.
styles: $(VENV)/test.stamp
	$(BIN)/python -m tests.cut_styles

shots: $(VENV)/test.stamp browser
	$(BIN)/python -m tests.shots

clean:
	rm -rf $(VENV) build var src/*.egg-info
