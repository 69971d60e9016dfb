# Two commands matter: make demo and make test. Both work on a fresh Debian machine
# with Go, Node 20 and make, as root or not.
SHELL := /bin/bash
TOOLS := $(CURDIR)/.cache/bin
LINT  := $(TOOLS)/golangci-lint
GEN   := $(TOOLS)/oapi-codegen
DEAD  := $(TOOLS)/deadcode
SUDO  := $(shell [ "$$(id -u)" = 0 ] || echo sudo)
GOUI  := $(shell find ui/src ui/public ui/index.html ui/vite.config.ts -type f 2>/dev/null)

.PHONY: server-packages demo stop build ui test lint bench load generate current screenshots fuzz clean packages proof

demo: server-packages build
	@bin/cinderpath demo

stop: build
	@bin/cinderpath stop

build: ui
	go build -o bin/cinderpath ./cmd/cinderpath

ui: ui/dist/index.html

ui/node_modules/.package-lock.json: ui/package-lock.json
	cd ui && npm ci --no-audit --no-fund
	@touch $@

ui/dist/index.html: ui/node_modules/.package-lock.json $(GOUI)
	cd ui && npm run --silent build

# Debian's packages, only those that are missing: the database server for the program, a
# browser and a reader of PDF for the tests. Debian's own database cluster is not made: the
# program runs a private one.
define install
	@missing=""; $(1) \
	if [ -n "$$missing" ] && [ "$$(id -u)" != 0 ] && ! command -v sudo >/dev/null; then \
	  echo "Missing:$$missing. There is no sudo here; let root run: apt-get install$$missing"; exit 1; \
	fi; \
	if [ -n "$$missing" ]; then \
	  echo "Installing$$missing (Debian packages)"; \
	  $(SUDO) mkdir -p /etc/postgresql-common; \
	  [ -e /etc/postgresql-common/createcluster.conf ] || echo "create_main_cluster = false" | $(SUDO) tee /etc/postgresql-common/createcluster.conf >/dev/null; \
	  $(SUDO) apt-get update -qq && $(SUDO) env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends -o Dpkg::Options::=--force-confold $$missing; \
	fi
endef
SERVER := ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || command -v postgres >/dev/null || missing="$$missing postgresql";
TESTERS := command -v chromium >/dev/null || missing="$$missing chromium"; command -v pdftotext >/dev/null || missing="$$missing poppler-utils";

server-packages:
	$(call install,$(SERVER))

packages:
	$(call install,$(SERVER) $(TESTERS))

# The browser tests go last and alone: they are about what a user sees, not about
# how a busy machine copes.
test: packages ui
	go test -timeout 25m $$(go list ./... | grep -v /e2e$$)
	go test -timeout 40m ./e2e

# The long statistical proofs: the same tests over many more cases.
proof: packages ui
	CINDERPATH_PROOF=1 go test -timeout 25m -count=1 ./core/path
	CINDERPATH_PROOF=1 go test -timeout 25m -count=1 ./core/gear ./core/strata ./core/paint -rapid.checks=300
	go test -timeout 25m -count=1 -run Pins ./core/scheme -rapid.checks=500
	CINDERPATH_PROOF=1 go test -timeout 25m -count=1 -run 'Extreme|Interleaved' ./server
	CINDERPATH_PROOF=1 go test -timeout 25m -count=1 -run 'Killed' ./e2e
	go test -race -timeout 25m -count=1 -skip PrintedExample ./store/... ./cmd/...
	go test -race -timeout 25m -count=1 -run 'Away|Slow|Interleaved|Browser|AHead|ManyEdits|PicturesCome|Meshes|ABetter' ./server
	go test -race -timeout 25m -count=1 -run 'Forgetting|AStage|ASearchStops|PicturesAtAny' ./core/plan ./core/look

bench: ui
	go test -p 1 -run '^$$' -bench . -benchmem ./core/... ./sheets ./server ./e2e

# What the whole program takes under load, as docs/trust.md quotes it.
load: packages ui
	go run ./e2e/load

# Every reader of foreign text or files, a minute each; whole documents through everything, ten.
FUZZ := ./core/length:FuzzParseReal ./core/length:FuzzParsePlace ./core/length:FuzzParseScale ./core/plan:FuzzAsk ./core/landing:FuzzRead ./core/kit:FuzzReadLeaflet ./sheets:FuzzRead ./sheets:FuzzReadSizes ./sheets:FuzzReadSTL ./sheets:FuzzReadPhoto ./sheets:FuzzSound
fuzz:
	@for f in $(FUZZ); do go test -run '^$$' -fuzz "^$${f##*:}\$$" -fuzztime 60s -fuzzminimizetime 1x $${f%%:*} || exit 1; done
	go test -timeout 60m -count=1 -run 'TestAny' ./core/plan -rapid.checks=300
	go test -run '^$$' -fuzz '^FuzzDocuments$$' -fuzztime 10m -fuzzminimizetime 1x -parallel 1 ./server

$(LINT):
	GOBIN=$(TOOLS) go install github.com/golangci/golangci-lint/v2/cmd/golangci-lint@v2.15.0

$(GEN):
	GOBIN=$(TOOLS) go install github.com/oapi-codegen/oapi-codegen/v2/cmd/oapi-codegen@v2.8.2

$(DEAD):
	GOBIN=$(TOOLS) go install golang.org/x/tools/cmd/deadcode@v0.38.0

lint: $(LINT) $(DEAD) ui
	$(LINT) run ./...
	@found="$$($(DEAD) -test ./...)"; [ -z "$$found" ] || { echo "nobody calls:"; echo "$$found"; exit 1; }
	cd ui && npm run --silent check

generate: $(GEN) ui/node_modules/.package-lock.json
	$(GEN) -config server/api/config.yaml server/openapi.yaml
	cd ui && npm run --silent generate

# Fails when what is committed is not what the generators write.
current: generate
	git diff --exit-code -- server/api ui/src/api/schema.d.ts

screenshots: packages ui
	CINDERPATH_SHOTS=$(CURDIR)/docs/screenshots go test -count=1 -run TestScreenshots ./e2e

clean:
	rm -rf bin ui/dist/assets ui/dist/index.html ui/node_modules
