# Two commands: `make demo` opens the window with demo data, `make test` checks everything.
# Both set up what is missing first; a second run sets up nothing.
SHELL := /bin/sh
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
RUN_READY := $(VENV)/.run-ready
DEV_READY := $(VENV)/.dev-ready
DOCS_READY := $(VENV)/.docs-ready
# Packaging has an environment of its own: what it needs is nothing that a painter should wait for.
PACKER := .venv-package
PACK_READY := $(PACKER)/.ready
PREFIX ?= /usr/local
# What is compiled once is kept: many programs of their own are started here, each would compile it all again.
unexport PYTHONDONTWRITEBYTECODE

.PHONY: demo test test-all access hard stalls phrases system lint types layers kernel collected unit bench truth screenshots catalogue designs schema docs install uninstall deb package clean

demo: $(RUN_READY)
	@sh tools/system_packages.sh window
	@$(BIN)/python -m compileall -q src
	@sh tools/demo.sh

# What waits for one thing runs beside what waits for another: the kernel is compiled while pip still unpacks.
test:
	@$(MAKE) --no-print-directory --jobs --output-sync=target system lint layers kernel collected
	@$(MAKE) --no-print-directory --jobs=2 types unit

system: $(VENV)/bin/python
	@sh tools/system_packages.sh display

lint: $(DEV_READY)
	$(BIN)/ruff check src tests tools
	$(BIN)/ruff format --check src tests tools

# In what the tests leave of the machine, which wait for windows now and then. On a busy one its two helpers may come
# later than it waits for them: then it does all by itself.
types: $(DEV_READY)
	nice $(BIN)/mypy -n 2 || nice $(BIN)/mypy

layers: $(DEV_READY)
	$(BIN)/lint-imports --no-cache

# Compiled once, before the tests' processes each need it.
kernel: $(RUN_READY)
	$(BIN)/python -c "from pennello.lay import engine, warming; warming.rehearse(engine.kernel())"

# All tests and what they import are compiled once, before two processes do it at the same time; what cannot be read is said.
collected: $(DEV_READY) system
	@said=$$(QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest -q --collect-only tests --ignore=tests/bench 2>&1) \
		|| { echo "$$said" | tail -40; exit 1; }

# Measured while they run: fails when the tests run too few lines of the core.
unit: $(DEV_READY)
	PYTHONPATH=tools PYTEST_PLUGINS=measured QT_QPA_PLATFORM=offscreen \
		$(BIN)/python -m pytest -q -n auto --dist loadfile --no-loadscope-reorder --measure -m "not slow" src tests --ignore=tests/bench

# Everything on every Python that is promised; each gets an environment of its own.
test-all: $(DEV_READY)
	@sh tools/system_packages.sh display
	@sh tools/test_all.sh

# The window walked as a screen reader does, over the real AT-SPI bus: fails on what has no name or role.
access: $(DEV_READY)
	@sh tools/system_packages.sh access
	$(BIN)/python tools/access.py

# What may go wrong, tried on purpose: HARD_MINUTES=30 make hard
hard: $(DEV_READY)
	@sh tools/system_packages.sh offscreen
	PYTHONPATH=tools QT_QPA_PLATFORM=offscreen $(BIN)/python -m hard

# All sentences as a template for translators.
phrases: $(DEV_READY)
	$(BIN)/python tools/phrases.py build/pennello.pot

# How long the window does not answer, by what is done in it.
stalls: $(DEV_READY)
	@sh tools/system_packages.sh offscreen
	PYTHONPATH=tools QT_QPA_PLATFORM=offscreen $(BIN)/python -m hard.stalls

bench: $(DEV_READY)
	@sh tools/system_packages.sh offscreen
	@$(BIN)/python -m compileall -q src
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest tests/bench -q -o addopts= --import-mode=importlib \
		--benchmark-only --benchmark-disable-gc --benchmark-columns=median,iqr,rounds

# How far predictions miss simulated painters, before and after a calibration card; some minutes.
truth: $(RUN_READY)
	$(BIN)/python tools/truth.py

screenshots: $(RUN_READY)
	@sh tools/system_packages.sh offscreen
	QT_QPA_PLATFORM=offscreen $(BIN)/python tools/screenshots.py

catalogue: $(RUN_READY)
	QT_QPA_PLATFORM=offscreen $(BIN)/python tools/make_catalogue.py

designs: $(RUN_READY)
	$(BIN)/python tools/make_designs.py

schema: $(RUN_READY)
	$(BIN)/python -m pennello schema > docs/pennello.schema.json
	$(BIN)/python -m pennello day schema > docs/pennello-day.schema.json
	$(BIN)/python tools/make_format.py

# The documents as pages, with those of the core made from its docstrings; warnings are errors.
docs: $(DOCS_READY)
	NO_MKDOCS_2_WARNING=1 $(BIN)/python -m mkdocs build --strict --quiet
	@echo "build/docs/index.html"

# make install PREFIX=$$HOME/.local, also with DESTDIR=; BEST_ORDER=1 brings OR-Tools (161 MB), which proves orders
install: $(PACK_READY)
	@sh tools/system_packages.sh window
	@sh tools/install.sh "$(PYTHON)" "$(PACKER)/bin/python" "$(PREFIX)" "$(DESTDIR)"

uninstall:
	@sh tools/uninstall.sh "$(DESTDIR)$(PREFIX)"

deb: $(PACK_READY)
	@mkdir -p build/deb
	@sh tools/deb.sh "$(PYTHON)" "$(PACKER)/bin/python" build/deb

# Wheel, source archive and Debian package, each looked at by its validators; some minutes.
package: $(PACK_READY)
	@sh tools/system_packages.sh package
	@sh tools/package.sh "$(PYTHON)" "$(PACKER)/bin/python" build/package

$(PACK_READY): requirements-package.lock
	@sh tools/make_venv.sh "$(PYTHON)" "$(PACKER)"
	$(PACKER)/bin/python -m pip install --quiet --no-compile --require-hashes -r requirements-package.lock
	$(PACKER)/bin/python -m pip install --quiet --no-deps --no-build-isolation -e .
	@touch $@

$(VENV)/bin/python:
	@sh tools/make_venv.sh "$(PYTHON)" "$(VENV)"

$(RUN_READY): requirements.lock requirements-uv.lock pyproject.toml | $(VENV)/bin/python
	@sh tools/install_pinned.sh $(BIN)/python requirements.lock
	$(BIN)/python -m pip install --quiet --no-deps --no-build-isolation -e .
	$(BIN)/python -m compileall -q src
	@touch $@

$(DEV_READY): requirements-dev.lock $(RUN_READY) | $(VENV)/bin/python
	@sh tools/install_pinned.sh $(BIN)/python requirements-dev.lock
	@touch $@

$(DOCS_READY): requirements-docs.lock $(RUN_READY) | $(VENV)/bin/python
	@sh tools/install_pinned.sh $(BIN)/python requirements-docs.lock
	@touch $@

clean:
	rm -rf $(VENV) .venv-* build .benchmarks .mypy_cache .ruff_cache .hypothesis src/*.egg-info
	find src tests tools -name __pycache__ -type d -exec rm -rf {} +
