PYTHON ?= python3
PORT ?= 8000
VENV := .venv
BIN := $(VENV)/bin
# uv installs several packages at once; pip does it where there is none.
INSTALL := $(if $(shell command -v uv 2>/dev/null),uv pip install --quiet --python $(BIN)/python,$(BIN)/pip install --quiet --disable-pip-version-check)

.PHONY: install demo check test screenshots bench audit editor lock clean

# What `make demo` and `make test` do first. A stamp makes the second start quick.
install: $(VENV)/installed

$(VENV)/installed: requirements.lock pyproject.toml
	@$(PYTHON) -c 'import sys; sys.exit(sys.version_info < (3, 11))' || { echo "Mobbet needs Python 3.11 or newer; run: make PYTHON=python3.12"; exit 1; }
	@echo "making a Python environment in $(VENV)"
	@$(PYTHON) -m venv $(VENV)
	@echo "installing $$(grep -c '==' requirements.lock) packages, which takes a minute or two at first"
	@$(INSTALL) --require-hashes -r requirements.lock
	@$(INSTALL) --no-deps --no-build-isolation -e .
	@touch $@

$(VENV)/installed-tests: $(VENV)/installed requirements-test.lock
	@echo "installing what the tests need"
	@$(INSTALL) --require-hashes -r requirements-test.lock
	@touch $@

demo: install
	@exec $(BIN)/mobbet demo --data var/demo --port $(PORT)

# Lint, format and types of all Python.
check: $(VENV)/installed-tests
	@$(BIN)/ruff check --quiet .
	@$(BIN)/ruff format --quiet --check .
	@$(BIN)/mypy --no-error-summary

# Modules are compiled once: the tests start hundreds of processes.
test: check
	@sh tools/chromium.sh
	@env -u PYTHONDONTWRITEBYTECODE $(BIN)/python -W error::DeprecationWarning:mobbet -m tests

# The pictures of docs/screenshots, from fresh demo data.
screenshots: $(VENV)/installed-tests
	@sh tools/chromium.sh
	$(BIN)/python -m tools.screenshots

bench: $(VENV)/installed-tests
	@sh tools/chromium.sh
	$(BIN)/mobbet bench
	$(BIN)/python -m bench.hostile
	$(BIN)/python -m bench.writing
	$(BIN)/python -m bench.kills
	$(BIN)/python -m bench.letter_kills
	$(BIN)/python -m bench.offline 20
	$(BIN)/python -m bench.in_and_out

# Known faults of packages, axe on every screen and public page, the Nu Html Checker on the built site, and Lighthouse.
audit: $(VENV)/installed-tests
	@sh tools/chromium.sh
	$(BIN)/pip install --quiet --disable-pip-version-check --require-hashes -r tools/audit/requirements.lock
	npm --prefix tools/audit ci --silent --no-fund
	$(BIN)/python -m tools.audit

editor:
	npm --prefix editor ci --silent --no-fund
	npm --prefix editor run --silent build

lock:
	uv pip compile pyproject.toml tools/build.in --universal --generate-hashes --python-version 3.11 --no-header -q -o requirements.lock
	uv pip compile pyproject.toml tools/build.in --extra test --universal --generate-hashes --python-version 3.11 --no-header -q -o requirements-test.lock
	uv pip compile tools/audit/requirements.in --constraint requirements-test.lock --universal --generate-hashes --python-version 3.11 --no-header -q -o tools/audit/requirements.lock

clean:
	rm -rf $(VENV) var build *.egg-info
