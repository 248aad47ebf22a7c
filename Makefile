# make demo   everything set up, then the application with the demo shop
# make test   everything set up, then all tests
# make check  lint, types, import rules, formats
# make api    the OpenAPI document and the front end's types, made again after the API changed

# compiled once, whatever the shell around it says: each process of the tests would do it again
export PYTHONDONTWRITEBYTECODE :=

PY := .venv/bin/python
STAMPS := .stamps
STATIC := src/lean_ledger/web/static/index.html
FRONT := $(shell find frontend/src frontend/public -type f) frontend/index.html frontend/vite.config.ts frontend/tsconfig.json

.PHONY: demo serve test check api build clean system browser

demo: $(STAMPS)/python $(STATIC)
	.venv/bin/lean-ledger demo

serve: $(STAMPS)/python $(STATIC)
	.venv/bin/lean-ledger serve

build: $(STAMPS)/python $(STATIC)

test: $(STAMPS)/python $(STATIC) browser
	cd frontend && npm run --silent test
	$(PY) -m pytest -n 3 # on two cores: one of them waits for the browser

check: $(STAMPS)/python $(STAMPS)/node
	.venv/bin/ruff check src tests bench
	.venv/bin/ruff format --check src tests bench
	.venv/bin/mypy
	.venv/bin/lint-imports
	.venv/bin/lean-ledger openapi | diff -q - docs/openapi.json
	cd frontend && npm run --silent lint && npm run --silent types

api: $(STAMPS)/python $(STAMPS)/node
	.venv/bin/lean-ledger openapi > docs/openapi.json
	cd frontend && npm run --silent api

# Debian packages, only where they are missing
APT := $(if $(filter 0,$(shell id -u)),,sudo )apt-get

system:
	@missing=""; \
	command -v python3 >/dev/null && python3 -c 'import venv, ensurepip' 2>/dev/null || missing="$$missing python3 python3-venv"; \
	command -v npm >/dev/null || missing="$$missing nodejs npm"; \
	ldconfig -p | grep -q 'libGL\.so\.1' || missing="$$missing libgl1"; \
	if [ -n "$$missing" ]; then $(APT) update -q && $(APT) install -y -q --no-install-recommends $$missing; fi; \
	node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' \
	  || { echo "Node.js 20.19 or newer is needed, this is $$(node --version)"; exit 1; }

browser: | system
	@command -v chromium-headless-shell >/dev/null \
	  || { $(APT) update -q && $(APT) install -y -q --no-install-recommends chromium-headless-shell; } \
	  || command -v chromium

$(STAMPS)/python: pyproject.toml constraints.txt | system
	test -x $(PY) || python3 -m venv .venv
	$(PY) -m pip install -qq --disable-pip-version-check -c constraints.txt -e '.[dev]'
	mkdir -p $(STAMPS) && touch $@

$(STAMPS)/node: frontend/package-lock.json | system
	cd frontend && npm ci --no-audit --no-fund --loglevel=error
	mkdir -p $(STAMPS) && touch $@

$(STATIC): $(STAMPS)/node $(FRONT)
	cd frontend && npm run --silent build
	touch $@

clean:
	rm -rf .venv .stamps frontend/node_modules src/lean_ledger/web/static
