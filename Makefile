# make demo: set up and start with the sample project.  make test: set up and run the tests.
PYTHON ?= python3
BIN = .venv/bin
# make demo WHEELS=DIR takes all Python packages from a folder (or a mirror's address with MIRROR=URL).
FROM = $(if $(WHEELS),--wheels $(WHEELS)) $(if $(MIRROR),--mirror $(MIRROR))

# Modules are kept compiled, also where the environment says otherwise: each start would read them anew.
export PYTHONDONTWRITEBYTECODE =
SCRIPTS = src/fox_cadence/web/static/scripts
DIST = src/fox_cadence/web/static/dist

.PHONY: demo serve test test-all check bench mutants page samples screenshots types lock setup setup-dev setup-node clean

demo: setup
	$(BIN)/fox-cadence demo

serve: setup
	$(BIN)/fox-cadence serve

# What every change must pass; ONLY="lettering cast" runs the folders and files of tests with these names.
test: setup-dev setup-node
	@scripts/system-packages test
	$(BIN)/python -m scripts.run_tests $(ONLY)

# And what is long: before a release, and by whoever touches what it covers (docs/tests.md).
test-all: setup-dev setup-node
	@scripts/system-packages test
	$(BIN)/python -m scripts.run_tests --all $(ONLY)

check: setup-dev setup-node
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/lint-imports
	$(BIN)/python -m scripts.audit
	$(BIN)/python -m scripts.page_types --check
	node_modules/.bin/tsc -p tsconfig.json
	node_modules/.bin/prettier --check --log-level warn "src/fox_cadence/web/static/scripts/**/*.{js,ts}"
	@$(MAKE) --silent page DIST=build/page-now
	@diff -rq -x '*.map' build/page-now $(DIST) || { echo "the built page is out of date: make page"; exit 1; }

# Which changes of the core no test would notice; takes about fifteen minutes (CONTRIBUTING.md).
mutants: setup-dev
	test -d build/mutmut || $(BIN)/python -m pip install --quiet --target build/mutmut mutmut==3.8.1
	PYTHONPATH=build/mutmut $(BIN)/python -m mutmut run --max-children 2
	PYTHONPATH=build/mutmut $(BIN)/python -m mutmut results

bench: setup-dev
	$(BIN)/python -m bench

# The page's styles and scripts as the browser gets them; the result is in git, so that nobody needs Node to run it.
page: setup-node
	node_modules/.bin/tailwindcss -i styles/app.css -o $(DIST)/app.css --minify 2>/dev/null
	node_modules/.bin/esbuild $(SCRIPTS)/main.js $(SCRIPTS)/review.js --bundle --format=esm --minify --target=es2023 \
	    --sourcemap --sources-content=false --log-level=warning --outdir=$(DIST)

types: setup-dev
	$(BIN)/python -m scripts.page_types

screenshots: setup-dev
	@scripts/system-packages test
	$(BIN)/python -m scripts.screenshots

# The samples as they ship, made anew; takes some minutes.
samples: setup-dev
	$(BIN)/python -m scripts.pack_samples

# A dictionary of 77 MB that the Japanese front end can also work with, and does not here.
UNUSED = --no-emit-package sudachidict-core

lock:
	uv pip compile --quiet --generate-hashes --python-version 3.11 $(UNUSED) requirements.in -o requirements.lock
	uv pip compile --quiet --generate-hashes --python-version 3.11 $(UNUSED) requirements-dev.in -o requirements-dev.lock

setup: .venv/ready
setup-dev: .venv/ready-dev
setup-node: node_modules/ready

.venv/ready: requirements.lock requirements-models.lock pyproject.toml scripts/set_up.py
	@$(PYTHON) scripts/set_up.py $(FROM)
	@touch $@

.venv/ready-dev: .venv/ready requirements-dev.lock
	@$(PYTHON) scripts/set_up.py --developer $(FROM)
	@touch $@

node_modules/ready: package-lock.json
	@scripts/system-packages check
	npm ci --silent --ignore-scripts --no-audit --no-fund
	@touch $@

clean:
	rm -rf .venv node_modules .pytest_cache .mypy_cache .ruff_cache
