# Two commands do everything: `make demo` and `make test`.
PY := .venv/bin/python
STAMP := .venv/.installed
CONSOLE := src/handrail/service/console/index.html
WEB := $(shell find web/src web/public -type f ! -name schema.d.ts 2>/dev/null) web/index.html web/package-lock.json web/vite.config.ts

# The order of the tests: the same each time, so that nothing fails by chance; `make test SEED=31` is another.
SEED := 30

unexport PYTHONDONTWRITEBYTECODE # a service is several processes: each would compile every module again

.PHONY: demo test test-all worked setup lock lint bench soak mutants verification screenshots openapi demo-bundle

setup: $(STAMP) $(CONSOLE)

# What the lock says, digest by digest, on the machine that it holds for; elsewhere what pyproject.toml allows.
$(STAMP): pyproject.toml requirements.lock
	python3 -m venv .venv
	if $(PY) docs/make_lock.py --holds; then \
	  $(PY) -m pip install -q --disable-pip-version-check --require-hashes -r requirements.lock && \
	  $(PY) -m pip install -q --disable-pip-version-check --no-deps -e .; \
	else \
	  echo "requirements.lock is of another Python or system: newest versions are taken" && \
	  $(PY) -m pip install -q --disable-pip-version-check -e '.[dev]'; \
	fi
	touch $@

lock:
	python3 docs/make_lock.py

$(CONSOLE): $(WEB) src/handrail/service/openapi.json
	cd web && npm ci --no-audit --no-fund --loglevel=error && npm run types --silent && npm run build --silent

demo: setup
	$(PY) -m handrail.cli.main demo

# What needs one core each goes side by side; the worked examples (tests/worked) run with the page that is made of them.
test:
	$(MAKE) -j3 --output-sync $(STAMP) $(CONSOLE) /usr/bin/chromium
	$(MAKE) -j2 --output-sync lint worked
	$(PY) -m pytest tests --ignore tests/worked -n auto --dist loadfile --randomly-seed=$(SEED)

# The same with what looks once more or much more widely (tests/wide.py): an hour.
test-all:
	WIDE=1 $(MAKE) test

worked: $(STAMP)
	$(PY) docs/make_verification.py --check
	$(PY) docs/make_client_types.py --check

/usr/bin/chromium:
	apt-get update -qq && apt-get install -y -qq chromium

lint: $(STAMP) $(CONSOLE)
	.venv/bin/ruff format --check -q src tests bench docs
	.venv/bin/ruff check src tests bench docs
	.venv/bin/mypy
	.venv/bin/lint-imports
	cd web && npx tsc --noEmit && npx biome check src

bench: $(STAMP)
	$(PY) bench/run.py

# Two hours of an office, not part of any test; `make soak MINUTES=20` is less.
MINUTES := 120

soak: $(STAMP)
	$(PY) bench/soak.py $(MINUTES)

mutants: $(STAMP)
	$(PY) -m pip install -q --disable-pip-version-check -e '.[mutants]'
	$(PY) bench/mutants.py

verification: $(STAMP)
	$(PY) docs/make_verification.py

screenshots: setup /usr/bin/chromium
	$(PY) docs/make_screenshots.py
	$(PY) docs/make_sheets.py

openapi: $(STAMP)
	$(PY) docs/make_openapi.py
	$(PY) docs/make_client_types.py
	cd web && npm run types --silent

demo-bundle: $(STAMP)
	$(PY) -m handrail.demo.building
	$(PY) -m handrail.demo.exports
	$(PY) -m handrail.demo.revision_c
