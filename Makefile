# Bambola: `make demo` and `make test` do all the set-up they need.
VENV := .venv
PY := $(VENV)/bin/python
STAMP := $(VENV)/.installed
ROOM := wool
PREFIX ?= $(HOME)/.local
# What Python compiles is kept even where the surroundings say otherwise: else each program that is started,
# by hand or by a test, compiles all of it anew.
unexport PYTHONDONTWRITEBYTECODE

.PHONY: demo test near smoke thorough durations check torture lowest mutants bench pictures screenshots schemas snapshots catalogue lock install uninstall pages deb release check-release clean

demo: $(STAMP)
	@scripts/demo $(VENV)

test: $(STAMP)
	@QT_QPA_PLATFORM=offscreen $(PY) -m pytest -n auto --dist worksteal --durations=10

# The tests that reach what differs from main.
near: $(STAMP)
	@QT_QPA_PLATFORM=offscreen $(PY) -m scripts.near

# Every target here on its smallest case: whether each runs to its end.
smoke: $(STAMP)
	@scripts/smoke $(VENV)

# Everything that an ordinary run tries a few of; before a release, and where a part was touched.
thorough: $(STAMP)
	@THOROUGH=1 QT_QPA_PLATFORM=offscreen $(PY) -m pytest -n auto --dist worksteal

# What every test costs, in .venv/durations.txt.
durations: $(STAMP)
	@QT_QPA_PLATFORM=offscreen $(PY) -m pytest -n auto --dist worksteal --durations-table=$(VENV)

check: $(STAMP)
	$(VENV)/bin/ruff check bambola tests benchmarks scripts
	$(VENV)/bin/ruff format --check bambola tests benchmarks scripts
	$(VENV)/bin/mypy
	$(VENV)/bin/mypy --scripts-are-modules scripts/install
	$(VENV)/bin/lint-imports
	$(PY) -m scripts.check_words
	$(PY) -m scripts.check_facts
	$(PY) -m scripts.check_catalogues
	@$(PY) -m scripts.catalogue --template $(VENV)/now.pot
	@diff -q $(VENV)/now.pot bambola/shipped/locale/bambola.pot > /dev/null || \
		{ echo "The template of sentences is not of now: make catalogue"; exit 1; }
	@scripts/check-desktop

torture: $(STAMP)
	@$(PY) -m tests.torture

lowest: $(STAMP)
	@scripts/lowest $(VENV) $(VENV)-lowest

mutants: $(STAMP)
	@$(PY) -m scripts.mutants $(ROOM)

bench: $(STAMP)
	@QT_QPA_PLATFORM=offscreen $(PY) -m benchmarks

pictures: $(STAMP)
	@$(PY) -m scripts.plan_pictures

screenshots: $(STAMP)
	@QT_QPA_PLATFORM=offscreen $(PY) -m scripts.screenshots docs/screenshots
	@$(PY) -m scripts.guide_pictures docs/screenshots bambola/shipped/guide/en/pictures
	@QT_QPA_PLATFORM=offscreen $(PY) -m scripts.screenshots $(VENV)/shots de
	@$(PY) -m scripts.guide_pictures $(VENV)/shots bambola/shipped/guide/de/pictures

schemas: $(STAMP)
	@$(VENV)/bin/bambola schema plan > bambola/core/export/plan.schema.json
	@$(VENV)/bin/bambola schema heights > bambola/core/export/heights.schema.json
	@$(VENV)/bin/bambola schema figure > bambola/core/figure/figure.schema.json
	@$(VENV)/bin/bambola schema bench > bambola/core/bench/bench.schema.json
	@$(VENV)/bin/bambola schema strokes > bambola/core/strokes/strokes.schema.json

# Every sentence of the program, for a translator to start from, and brought into the languages there are.
catalogue: $(STAMP)
	@$(PY) -m scripts.catalogue

snapshots: $(STAMP)
	@$(PY) -m tests.core.switches
	@$(PY) -m tests.core.looks
	@$(PY) -m tests.core.kept_plans

COMPILE := $(VENV)/bin/pip-compile --quiet --strip-extras --generate-hashes --allow-unsafe \
	--no-emit-index-url --no-emit-find-links --no-emit-trusted-host

# What runs the program, and what it is worked on with: the second holds all of the first.
lock: $(STAMP)
	$(COMPILE) --output-file requirements.lock pyproject.toml
	$(COMPILE) --constraint requirements.lock --extra dev --output-file requirements-dev.lock pyproject.toml

$(STAMP): requirements-dev.lock pyproject.toml scripts/setup
	@scripts/setup $(VENV)
	@touch $(STAMP)

install: $(STAMP)
	@$(PY) scripts/install "$(PREFIX)" --destdir "$(DESTDIR)"

uninstall:
	@python3 scripts/install "$(PREFIX)" --destdir "$(DESTDIR)" --remove

# Man pages and completion of the commands, as they are shipped.
pages: $(STAMP)
	@LC_ALL=C LANGUAGE=en COLUMNS=100 $(PY) -m scripts.pages bambola/shipped/share

deb: $(STAMP)
	@scripts/deb $(VENV) dist

release: $(STAMP)
	@scripts/release $(VENV) dist

# The same, held against the checkers of those it is handed to; an administrator has what is missing installed.
check-release: $(STAMP)
	@scripts/check-release $(VENV) dist

clean:
	rm -rf $(VENV) build dist *.egg-info .pytest_cache .mypy_cache .ruff_cache .hypothesis
