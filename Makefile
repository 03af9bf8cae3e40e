# Parhelion. `make demo` and `make test` set up whatever is missing.
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
MANAGE := $(BIN)/python server/manage.py
STAMPS := .stamps
PORT ?= 8031
TIDES := core/parhelion/data/tides.json.gz

.PHONY: demo test bench attack screenshots strangers contract format check setup clean

demo: $(STAMPS)/runtime $(STAMPS)/build $(TIDES)
	@$(MANAGE) migrate -v0
	@$(MANAGE) load_demo
	@cd server && exec ../$(BIN)/python serve.py --port $(PORT)

test: setup
	$(BIN)/python .ci/checks.py

bench: $(STAMPS)/dev $(STAMPS)/build
	$(BIN)/python bench/ratios.py

SCALE ?= 1
attack: $(STAMPS)/dev $(STAMPS)/build $(TIDES)
	$(BIN)/python -W ignore bench/attack.py --scale $(SCALE)

screenshots: setup
	$(BIN)/python bench/screenshots.py

strangers: $(STAMPS)/runtime
	$(BIN)/python bench/strangers.py

setup: $(STAMPS)/dev $(STAMPS)/build $(STAMPS)/chromium $(TIDES)

$(TIDES): web/scripts/export-tides.mjs $(STAMPS)/npm
	cd web && node scripts/export-tides.mjs ../$@

$(STAMPS):
	mkdir -p $@

$(BIN)/uv: | $(STAMPS)
	$(PYTHON) -m venv $(VENV)
	$(BIN)/pip install -q --disable-pip-version-check uv

$(STAMPS)/runtime: requirements.txt pyproject.toml | $(BIN)/uv
	$(BIN)/uv pip install -q --compile-bytecode -r requirements.txt
	$(BIN)/uv pip install -q --no-deps -e .
	$(BIN)/python -m parhelion.warm
	touch $@

$(STAMPS)/dev: requirements-dev.txt $(STAMPS)/runtime
	$(BIN)/uv pip install -q --compile-bytecode -r requirements-dev.txt
	touch $@

$(STAMPS)/npm: web/package.json web/package-lock.json | $(STAMPS)
	cd web && npm ci --no-audit --no-fund --loglevel=error
	touch $@

WEB_SOURCES := $(shell find web/src web/public -type f) web/index.html web/vite.config.ts

$(STAMPS)/build: $(STAMPS)/npm $(STAMPS)/runtime $(WEB_SOURCES)
	cd web && npm run --silent build -- --logLevel warn
	$(BIN)/python -m whitenoise.compress -q web/dist
	touch $@

# The headless package takes a third less of a processor than the whole browser; either will do.
SHELL_PACKAGE := chromium-headless-shell
$(STAMPS)/chromium: | $(STAMPS)
	@if command -v $(SHELL_PACKAGE) >/dev/null; then :; \
	elif [ "$$(id -u)" = 0 ] && apt-get update -qq && apt-get install -y -qq --no-install-recommends $(SHELL_PACKAGE); then :; \
	elif command -v chromium >/dev/null; then :; \
	else echo "The browser tests need Debian's browser: apt-get install $(SHELL_PACKAGE)" >&2; exit 1; fi
	touch $@

# After a change of the API or of the design document.
contract: $(STAMPS)/dev $(STAMPS)/npm
	$(MANAGE) export_contract
	cd web && npm run --silent types

format: $(STAMPS)/dev $(STAMPS)/npm
	$(BIN)/ruff check --fix -q core server bench; $(BIN)/ruff format -q core server bench
	cd web && npx biome check --write src tests vite.config.ts

clean:
	rm -rf $(VENV) $(STAMPS) web/node_modules web/dist var
