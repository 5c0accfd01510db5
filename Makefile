# Every command a developer needs. `make` alone lists them.
PY := .venv/bin/python
VITE := frontend/node_modules/.bin/vite
export PYTHONDONTWRITEBYTECODE = 1

.DEFAULT_GOAL := help
.PHONY: help setup demo test soak check format types bench review-quality screenshots chromium clean

help: ## list the commands
	@grep -hE '^[a-z-]+:.*## ' $(MAKEFILE_LIST) | sed -E 's/^([a-z-]+):.*## /\1\t/' | expand -t 18

setup: .venv/.stamp src/corkpost/web/.stamp ## Python and npm packages, the corkpost command, the front end built

demo: setup ## make the demo practice and serve it on http://127.0.0.1:8765
	@.venv/bin/corkpost --data data/demo demo

test: setup chromium check ## everything: checks, then all tests, the browser's too
	$(PY) -m pytest -n 2 --dist loadfile

soak: setup ## the long forms of tests: many books, every point of each
	$(PY) -m pytest -n 2 -m soak

check: setup types-fresh ## formatting, lint, types and import contracts, Python and TypeScript
	.venv/bin/ruff format --check .
	.venv/bin/ruff check .
	.venv/bin/mypy
	.venv/bin/lint-imports --no-cache
	cd frontend && npm run --silent check

audit: setup ## what the program is made of, with licences: inventories in build/ (CycloneDX)
	mkdir -p build
	.venv/bin/cyclonedx-py environment $(PY) --output-format JSON -o build/parts-python.json
	cd frontend && npm sbom --sbom-format cyclonedx > ../build/parts-pages.json
	$(PY) -m bench.licences build/parts-python.json build/parts-pages.json

format: setup ## put code into the project's form
	.venv/bin/ruff check --fix .
	.venv/bin/ruff format .
	cd frontend && node_modules/.bin/biome check --write --colors=off src

types: .venv/.stamp frontend/node_modules/.stamp ## write frontend/src/api/schema.gen.ts from the API
	mkdir -p build
	$(PY) -m corkpost.api.openapi > build/openapi.json
	cd frontend && npm run --silent types

bench: setup ## speed, as ratios side by side in one run
	$(PY) -m bench.import_speed
	$(PY) -m bench.import_beside
	$(PY) -m bench.check_speed
	$(PY) -m bench.page_speed
	$(PY) -m bench.worksheet_speed
	$(PY) -m bench.posting_speed
	$(PY) -m bench.find_speed
	$(PY) -m bench.parties_speed
	$(PY) -m bench.listings_speed
	$(PY) -m bench.load_speed

review-quality: setup ## recall and precision of the checks on labelled books
	$(PY) -m bench.review_quality
	$(PY) -m bench.bank_quality

screenshots: setup chromium ## take the pictures in docs/screenshots anew
	$(PY) -m bench.screenshots

# The front end's types are generated: fail when they are not what the API says now.
.PHONY: types-fresh
types-fresh: .venv/.stamp frontend/node_modules/.stamp
	@mkdir -p build
	@$(PY) -m corkpost.api.openapi > build/openapi.json
	@cd frontend && node_modules/.bin/openapi-typescript ../build/openapi.json --default-non-nullable=false -o ../build/schema.gen.ts >/dev/null
	@cmp -s build/schema.gen.ts frontend/src/api/schema.gen.ts || { echo "frontend/src/api/schema.gen.ts is stale: run 'make types'"; exit 1; }

.venv/.stamp: requirements-dev.txt pyproject.toml
	test -x .venv/bin/pip || python3 -m venv .venv
	.venv/bin/pip install -q --disable-pip-version-check uv==0.13.9
	.venv/bin/uv pip install -q --python $(PY) --require-hashes -r requirements-dev.txt
	.venv/bin/uv pip install -q --python $(PY) --no-deps --no-build-isolation -e .
	touch $@

frontend/node_modules/.stamp: frontend/package-lock.json
	cd frontend && npm ci --no-audit --no-fund --loglevel=error
	touch $@

FRONTEND := $(shell find frontend/src frontend/public -type f 2>/dev/null) frontend/index.html frontend/vite.config.ts
src/corkpost/web/.stamp: frontend/node_modules/.stamp $(FRONTEND)
	cd frontend && npm run --silent build
	touch $@

chromium:
	@command -v chromedriver >/dev/null || (apt-get update -q && apt-get install -y -q --no-install-recommends chromium chromium-driver)

clean: ## remove what was built and the demo's data
	rm -rf .venv frontend/node_modules src/corkpost/web build data
