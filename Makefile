# make demo   install, build, migrate, load the demo shop, serve
# make shop   the same on the shop's network over TLS, without the demo shop
# make test   every check and every test
# make wheel  the program as a shop installs it
# make api, schema, shots: what is made from the code and kept beside it
.PHONY: demo shop test views check-web check-types test-browser test-server test-core api schema days shipped backup restore speed wheel shots format clean
PY := .venv/bin/python
# What was compiled once is kept: a machine may be told otherwise, and each of many processes would do it anew.
export PYTHONDONTWRITEBYTECODE :=
# What Python needs and what the page needs are fetched at once.
MAKEFLAGS += --jobs=3
PIP := $(PY) -m pip install --quiet --no-compile --disable-pip-version-check
# By uv, which takes a tenth of pip's time; where it does not reach what pip is set up to reach, by pip.
INSTALL = $(PIP) -r requirements-uv.txt && $(PY) -m uv pip install --quiet --require-hashes --python $(PY) -r $(1) || $(PIP) -r $(1)
WEB_SOURCES := $(shell find web/src web/index.html web/vite.config.ts -type f 2>/dev/null)

demo: .venv/.installed web/dist/index.html
	@$(PY) manage.py demo

shop: .venv/.installed web/dist/index.html
	@$(PY) manage.py shop

test: .venv/.installed-dev check-web check-types
	@$(MAKE) --no-print-directory web/dist/index.html
	@command -v chromium-headless-shell >/dev/null || (apt-get update -q && apt-get install -y -q chromium-headless-shell)
	.venv/bin/ruff check .
	.venv/bin/ruff format --check .
	$(PY) manage.py makemigrations --check --dry-run --verbosity 0
	@$(MAKE) --no-print-directory --output-sync=target test-browser test-server test-core

check-web: web/node_modules/.installed
	npm --prefix web run --silent check
	NO_COLOR=1 npm --prefix web run --silent test

# The core's types, strictly.
check-types: .venv/.installed-dev
	.venv/bin/mypy

# All at once, on few cores; the server's, which are one long row, before the others.
test-browser:
	nice -n 3 $(PY) manage.py test tests.browser --parallel 3

test-server:
	$(PY) manage.py test tests.server

test-core:
	nice -n 3 $(PY) manage.py test tests.core

# Every view of every demo job, in each look and size.
views: .venv/.installed-dev web/dist/index.html
	CRADLE_ALL_VIEWS=1 $(PY) manage.py test tests.browser.test_every_view

# The OpenAPI file and the TypeScript types made from it, after a change of the API.
api: .venv/.installed-dev web/node_modules/.installed
	$(PY) manage.py export_openapi_schema --api cradle.api.api --indent 1 --sorted --output web/src/api/openapi.json
	npm --prefix web run --silent types

# The published schema of a job file, and what the page must know of it, after a change of layup/job.py.
schema: .venv/.installed
	$(PY) -m layup schema > docs/job.schema.json
	$(PY) -m layup as-built-schema > docs/as-built.schema.json
	$(PY) -m layup may-stand-empty > web/src/api/may_stand_empty.json
	$(PY) -m layup fresh > web/src/api/fresh.json
	$(PY) -m layup asked > web/src/api/asked.json

# The days at the bench and the pours that the core and the web reckon alike.
days: .venv/.installed-dev web/node_modules/.installed
	$(PY) -m tests.core.bench_days
	$(PY) -m tests.core.poured
	npm --prefix web run --silent format

# A whole copy of the data, also while the server runs; `make restore FILE=…` puts one back.
backup: .venv/.installed
	$(PY) manage.py backup

restore: .venv/.installed
	$(PY) manage.py restore "$(FILE)"

# What ships with the program, with its licences, after a change of a lock file.
shipped: .venv/.installed-dev web/node_modules/.installed
	$(PY) -m tests.shipped

# The figures that were promised, measured on this machine.
speed: .venv/.installed-dev web/dist/index.html
	$(PY) -m benchmarks

# What a shop installs: one file, for every system, into `dist`.
wheel: .venv/.installed-dev web/dist/index.html
	$(PY) -m uv build --wheel --no-build-isolation --out-dir dist .

# Retakes docs/screenshots from the demo data.
shots: .venv/.installed-dev web/dist/index.html
	$(PY) -m tests.shots

format: .venv/.installed-dev web/node_modules/.installed
	.venv/bin/ruff check --fix . ; .venv/bin/ruff format .
	npm --prefix web run --silent format

clean:
	rm -rf .venv web/node_modules web/dist

.venv/.installed: requirements.txt
	test -x $(PY) || python3 -m venv .venv
	$(call INSTALL,requirements.txt)
	touch $@

# What is only for tests comes with all the rest, so that the packages are looked up once.
.venv/.installed-dev: requirements-dev.txt requirements.txt
	test -x $(PY) || python3 -m venv .venv
	$(call INSTALL,requirements-dev.txt)
	touch .venv/.installed $@

# Not `npm ci`: it refuses a lock that leaves out the native packages of other platforms.
web/node_modules/.installed: web/package-lock.json
	npm --prefix web install --no-save --no-audit --no-fund --silent
	touch $@

# Compressed copies stand beside the files, and are what browsers get.
web/dist/index.html: web/node_modules/.installed .venv/.installed $(WEB_SOURCES)
	npm --prefix web run --silent build
	$(PY) -m whitenoise.compress --quiet web/dist woff2 png
