# What a person does with this checkout. Every target can be repeated; once installed, nothing needs the network.
.PHONY: demo test mutate fuzz bench soak sbom fmt clean console install docs screenshots

PYTHON ?= python3
BIN := .venv/bin

install:
	@sh scripts/install.sh "$(PYTHON)"

demo: install
	@$(BIN)/hodcarrier demo --data demo-data $(DEMO)

test: install
	@sh scripts/test.sh

mutate: install
	@MUTANTS=$(MUTANTS) ONLY=$(ONLY) $(BIN)/python -m scripts.mutate

fuzz: install
	@$(BIN)/python -m tests.reference.fuzzing $(or $(MINUTES),5) $(or $(SEED),0)

bench: install
	@LARGE=$(LARGE) KILLS=$(KILLS) LOAD=$(LOAD) READ=$(READ) SCREENS=$(SCREENS) IMPORT=$(IMPORT) REAL=$(REAL) FOLDER=$(FOLDER) $(BIN)/python -m bench

soak: install
	@MINUTES=$(MINUTES) $(BIN)/python -m bench.soak

sbom: install
	@$(BIN)/python -m scripts.sbom

fmt: install
	@$(BIN)/ruff format -q . && $(BIN)/ruff check -q --fix . && cd console && npm run -s fmt

docs: install
	@$(BIN)/python -m scripts.generate && cd console && npm run -s types

screenshots: install
	@$(BIN)/python -m scripts.screenshots $(ONLY)

console: install

clean:
	@rm -rf .venv .state demo-data dist console/node_modules hodcarrier/console build .mypy_cache .ruff_cache .pytest_cache .hypothesis *.egg-info
	@find . -name __pycache__ -type d -prune -exec rm -rf {} +
