# Everything a newcomer needs: `make demo` to see it, `make test` to trust it.

VENV := .venv
PY := $(VENV)/bin/python
TIJERA := $(VENV)/bin/tijera
STATIC := src/tijera/web/static/index.html
FRONT := $(shell find frontend/src frontend/index.html frontend/vite.config.ts -type f 2>/dev/null)

.PHONY: demo serve test test-fast mutants sweep check bench loss-study golden screenshots build types notice sbom faults clean

demo: $(VENV)/.run $(STATIC)
	$(TIJERA) demo --data var/demo

serve: $(VENV)/.run $(STATIC)
	$(TIJERA) serve

build: $(STATIC)

# The environment. uv installs faster than pip; it is brought in by pip where it is not there.
$(VENV)/.run: pyproject.toml requirements.lock
	test -x $(PY) || python3 -m venv $(VENV)
	$(PY) -m pip install --quiet --disable-pip-version-check uv
	$(VENV)/bin/uv pip install --quiet --python $(PY) -r requirements.lock
	$(VENV)/bin/uv pip install --quiet --python $(PY) --no-deps --editable .
	touch $@

$(VENV)/.dev: $(VENV)/.run requirements-dev.lock
	$(VENV)/bin/uv pip install --quiet --python $(PY) -r requirements-dev.lock
	touch $@

frontend/node_modules/.done: frontend/package-lock.json
	cd frontend && npm ci --no-audit --no-fund --loglevel=error
	touch $@

$(STATIC): frontend/node_modules/.done $(FRONT)
	cd frontend && npm run --silent build -- --logLevel warn
	touch $@

# Chromium and a virtual screen from Debian, for tests only; needs root or sudo, and does nothing where they are there.
.PHONY: test-packages
test-packages:
	@tools/install_test_packages

# Real files that others wrote, for tests; fetched once, and only where there is a network.
.PHONY: corpus
corpus: $(VENV)/.dev
	$(PY) -m tools.corpus

test: $(VENV)/.dev $(STATIC) test-packages corpus
	cd frontend && npm run --silent test
	$(PY) -W error -m tools.run_tests --slowest 40

# All but the browser and the recogniser.
test-fast: $(VENV)/.dev corpus
	$(PY) -W error -m tools.run_tests --fast

check: $(VENV)/.dev frontend/node_modules/.done
	$(VENV)/bin/ruff format --check --quiet .
	$(VENV)/bin/ruff check --quiet .
	$(VENV)/bin/lint-imports --no-logo
	$(PY) tools/import_rules.py
	$(VENV)/bin/mypy
	$(PY) tools/count_lines.py
	$(PY) tools/api_types.py --check
	$(PY) -m tools.make_notice --check
	cd frontend && npm run --silent types && npm run --silent lint && npx prettier --check --log-level warn src

types: $(VENV)/.run frontend/node_modules/.done
	$(PY) tools/api_types.py

# Whose work ships, with the licence texts.
notice: $(VENV)/.run frontend/node_modules/.done
	$(PY) -m tools.make_notice

# Bills of materials (CycloneDX) of what ships, by the general tools of either side; into var/sbom.
sbom: frontend/node_modules/.done requirements.lock requirements-sbom.lock
	python3 -m venv var/sbom/shipped && python3 -m venv var/sbom/tool
	var/sbom/shipped/bin/python -m pip install --quiet --disable-pip-version-check -r requirements.lock
	var/sbom/tool/bin/python -m pip install --quiet --disable-pip-version-check -r requirements-sbom.lock
	var/sbom/tool/bin/cyclonedx-py environment var/sbom/shipped/bin/python --of JSON --output-reproducible -o var/sbom/python.cdx.json
	cd frontend && npm sbom --sbom-format cyclonedx --omit dev > ../var/sbom/front-end.cdx.json

# Faults on purpose: kills, requests by a general tool, files made to do harm, hidden pixels, many clients, memory. Half an hour; no part of the tests.
faults: $(VENV)/.dev $(STATIC) requirements-faults.lock
	python3 -m venv var/faults/tool
	var/faults/tool/bin/python -m pip install --quiet --disable-pip-version-check -r requirements-faults.lock
	$(PY) -m faults.run

bench: $(VENV)/.dev $(STATIC) test-packages
	$(PY) -m benchmarks.run

# Small changes to the code, to see whether a test notices; takes a quarter of an hour and more, and is no part of the tests.
mutants: $(VENV)/.dev
	$(VENV)/bin/uv pip install --quiet --python $(PY) -r requirements-mutants.lock
	$(PY) -m tools.mutants

# Many random placements into real files, seeded; reported, and no part of the tests.
sweep: $(VENV)/.dev corpus
	$(PY) -m tools.sweep
	$(PY) -m tools.slimming_sweep

# How well the loss of a rendition follows what a recogniser still reads: some minutes, then seconds, and no part of the tests.
loss-study: $(VENV)/.dev test-packages
	$(PY) -m tools.loss_study

golden: $(VENV)/.dev
	$(PY) -m tests.golden.remake

screenshots: $(VENV)/.dev $(STATIC) test-packages
	$(PY) -m tools.screenshots

clean:
	rm -rf $(VENV) frontend/node_modules src/tijera/web/static var
