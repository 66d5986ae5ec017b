# make demo    build and serve the demo on http://localhost:8080 (PORT=… for another port)
# make test    everything that is checked, installing what the checks need
# make help    the rest

PORT ?= 8080
FUZZTIME ?= 60s
BINARY := bin/exactflask
GO_FILES := $(shell find . -name '*.go' -not -path './ui/*') go.mod go.sum
DATA_FILES := $(shell find core demo store wording web/dist -type f -not -name '*.go')
UI_FILES := $(shell find ui/src ui/public wording/messages -type f -not -name 'device.wasm' -not -name wasm_exec.js) ui/index.html ui/vite.config.ts ui/package.json
UI := web/dist/index.html
NPM := npm --prefix ui --silent

.PHONY: help demo demo-reset build dev test journeys units check long mutants bench load shots generate sqlc molar-masses fuzz chromium clean faults files audit notice

help:
	@echo "demo        build and serve the demo on port $(PORT); what was typed stays"
	@echo "demo-reset  throw the demo's data away, so that the next demo starts fresh"
	@echo "build       build bin/exactflask with the front end inside"
	@echo "dev         serve with live reload of the front end on port 5173"
	@echo "test        all checks and tests (installs Chromium from Debian's packages where missing)"
	@echo "long        what takes long: full simulations, fuzzing, kills, load, mutants"
	@echo "mutants     breaks rules by a seed and names those that no test notices (MUTANTS=300 SEED=1)"
	@echo "bench       benchmarks; the figures belong in docs/benchmarks.md"
	@echo "load        1,000 benches with event streams beside 30 class boards, ten minutes; figures as above"
	@echo "shots       make docs/screenshots anew"
	@echo "files       have a report's files read by programs of others, where they are here"
	@echo "generate    API description, schema of the open file, and types made from them"
	@echo "sqlc        queries (the first run builds the tool, some minutes)"
	@echo "molar-masses  the test table of molar masses, by a library from the npm registry"
	@echo "faults      500 kills under load, some minutes"
	@echo "audit       known vulnerabilities of what is built in, where their databases can be reached"
	@echo "notice      NOTICE anew: the licences of what ships inside"
	@echo "fuzz        fuzz every parser, practicals and whole notebooks, 60 s each"

demo: build
	PORT=$(PORT) $(BINARY) serve --demo --data data/demo.db

demo-reset:
	rm -f data/demo.db data/demo.db-wal data/demo.db-shm

build: $(BINARY)

ui/node_modules/.installed: ui/package.json ui/package-lock.json
	npm --prefix ui ci --no-audit --no-fund --loglevel error
	@touch $@

# The core as WebAssembly, for the bench without network. Not inlined it is an eighth smaller on
# its way to a phone (docs/benchmarks.md).
WASM := ui/src/core/device.wasm
WASM_FILES := $(shell find cmd/device device view core wording -type f -not -name '*_test.go') go.mod go.sum

$(WASM): $(WASM_FILES)
	GOOS=js GOARCH=wasm go build -trimpath -ldflags='-s -w' -gcflags=all=-l -o $@.tmp ./cmd/device
	mv $@.tmp $@
	cp "$$(go env GOROOT)/lib/wasm/wasm_exec.js" $(dir $@)wasm_exec.js

$(UI): ui/node_modules/.installed $(WASM) $(UI_FILES)
	$(NPM) run build -- --logLevel warn
	node ui/compress.mjs web/dist
	@printf 'the front end is built into this folder\n' > web/dist/placeholder.txt

$(BINARY): $(GO_FILES) $(DATA_FILES) $(UI)
	CGO_ENABLED=0 go build -trimpath -ldflags='-s -w' -o $@ ./cmd/exactflask

# The server runs with the demo; Vite serves the front end and passes /api on.
dev: build
	@trap 'kill 0' EXIT; PORT=$(PORT) $(BINARY) serve --demo --data data/demo.db & \
	EXACTFLASK_SERVER=http://localhost:$(PORT) npm --prefix ui run dev

# Tests that do several things at once are called so, and are watched for races; watching the
# others would find nothing and take five times as long.
AT_ONCE = AtOnce$$

# The journeys beside everything else: they wait for a browser half of the time.
test: build chromium
	@$(MAKE) --no-print-directory --jobs=2 --output-sync=target journeys units

# A journey waits for what it is about; the limit is for one that hangs.
journeys:
	go test ./e2e -timeout 30m -parallel 4

# Each test once.
units: check
	go test -skip '$(AT_ONCE)' $$(go list ./... | grep -v '/e2e$$')
	go test -race -run '$(AT_ONCE)' ./app/... ./store ./web
	GOOS=js GOARCH=wasm go test -exec "$$(go env GOROOT)/lib/wasm/go_js_wasm_exec" ./device

check: ui/node_modules/.installed
	@unformed=$$(git ls-files -co --exclude-standard '*.go' | xargs -r ls 2>/dev/null | xargs gofmt -l); test -z "$$unformed" || { echo "gofmt these:"; echo "$$unformed"; exit 1; }
	go vet ./...
	go tool -modfile=tools/lint/go.mod staticcheck ./...
	$(NPM) run check
	@$(MAKE) --no-print-directory drift

# What takes long: every simulation with its full number, fuzzing, kills, load, broken rules.
long: build chromium
	LONG=1 go test -count=1 -timeout 60m ./core/...
	LONG=1 $(NPM) run test
	@$(MAKE) --no-print-directory fuzz faults load mutants

# Breaks one rule after the other, and names those that no test notices: hours.
MUTANTS ?= 300
SEED ?= 1
mutants: ui/node_modules/.installed
	go run ./tools/mutate -n $(MUTANTS) -seed $(SEED)

# What is generated and checked in must be what would be generated now.
.PHONY: drift
drift: build
	@$(BINARY) openapi | cmp - docs/openapi.json || { echo "docs/openapi.json has drifted; run: make generate"; exit 1; }
	@$(BINARY) schema | cmp - docs/notebook.schema.json || { echo "docs/notebook.schema.json has drifted; run: make generate"; exit 1; }
	@t=$$(mktemp) && cd ui && npx --no-install openapi-typescript --default-non-nullable=false ../docs/openapi.json -o $$t >/dev/null && cmp $$t src/api/schema.d.ts || { echo "ui/src/api/schema.d.ts has drifted; run: make generate"; exit 1; }

generate:
	go build -o bin/generate ./cmd/exactflask
	bin/generate openapi > docs/openapi.json
	bin/generate schema > docs/notebook.schema.json
	$(NPM) run api

sqlc:
	go tool -modfile=tools/sqlc/go.mod sqlc generate

# The table of the tests, made once more when the catalogue has new formulas.
molar-masses:
	npm --prefix tools/molarmass install --no-package-lock --no-audit --no-fund --loglevel error
	node tools/molarmass/generate.mjs

chromium:
	@sh tools/chromium.sh

bench: build chromium
	go test -run '^$$' -bench . -benchmem ./core/... ./wording ./device ./web ./e2e
	@sh tools/first-load.sh

load: build
	go run ./e2e/load

# The page in a real browser, on a quick machine and as on a poor phone.
speed: build chromium
	go run ./e2e/speed

# The full campaign; make test has the short form of it.
faults: build chromium
	CUTS=500 go test ./e2e -run 'PowerCuts|Disk|Store' -v -timeout 60m
	SCHEDULES=1000 go test ./e2e -run RandomSchedules -v -timeout 120m
	KILLS=200 go test ./store -count=1 -v -run 'Backup|Schema|Opened|Tamper|Killed'

# A check that could not be made is no success.
audit: build
	@go run golang.org/x/vuln/cmd/govulncheck@latest ./... || { echo "The Go vulnerability check found something, or could not be made (see above)."; exit 1; }
	@$(NPM) audit --omit=dev || { echo "The npm audit found something, or could not be made (see above)."; exit 1; }

notice: build
	go run ./tools/notice

shots: build chromium
	go run ./e2e/shots -binary $(BINARY) -out docs/screenshots

files: build
	sh tools/files-check.sh > docs/files-check.txt && cat docs/files-check.txt

fuzz:
	@for t in core/values/decimal:FuzzParse core/chemistry/chem:FuzzParseFormula core/chemistry/chem:FuzzParseEquation core/record/journal:FuzzFold core/practice/plan:FuzzPractical \
		core/values/plaintext:FuzzClean formats:FuzzRead formats/roster:FuzzRead formats/readings:FuzzRead files:FuzzReadArchive calc:FuzzRun calc:FuzzNumbers; do \
		go test ./$${t%%:*} -run '^$$' -fuzz "^$${t##*:}$$" -fuzztime $(FUZZTIME) -fuzzminimizetime 1x || exit 1; done

clean:
	rm -rf bin ui/node_modules ui/src/core && git clean -fdxq web/dist
