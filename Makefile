# Two commands are enough: make demo, make test.
ADDR ?= 127.0.0.1:8420
STATICCHECK = go tool -modfile=tools/go.mod staticcheck
# One way of compiling for tests and program: what one has compiled, the other finds.
export GOFLAGS = -trimpath
NPM = npm --no-audit --no-fund --loglevel=error

.PHONY: demo run build test check check-go check-types check-lint unit web e2e bench bench-large bench-pan fuzz trial generate chromium clean

demo: build ## install, build and serve with demo data
	./bin/ojime demo --addr $(ADDR) --data demo-data

run: build ## serve the record in ./data
	./bin/ojime serve --addr $(ADDR) --data data

build: web ## write ./bin/ojime with the front end embedded
	go build -o bin/ojime ./cmd/ojime

web: web/node_modules
	cd web && npm run --silent build -- --logLevel warn

web/node_modules: web/package-lock.json
	cd web && $(NPM) install --no-save
	touch $@

e2e/node_modules: e2e/package-lock.json
	cd e2e && $(NPM) install --no-save
	touch $@

test: check unit e2e ## everything that CI runs

# Two at a time: those of the front end take one core each.
check: web/node_modules e2e/node_modules
	@$(MAKE) --no-print-directory -j2 --output-sync=target check-lint check-types check-go

check-go:
	@test -z "$$(gofmt -l cmd internal)" || { echo 'gofmt these files:'; gofmt -l cmd internal; exit 1; }
	go vet ./...
	$(STATICCHECK) ./...

check-types:
	cd web && npx --no -- openapi-typescript ../docs/openapi.json -o src/lib/schema.d.ts --check
	cd web && npm run --silent check
	cd e2e && npx --no -- tsc --noEmit

check-lint:
	cd web && npm run --silent lint

# The race detector slows SQLite and slicing down twentyfold; it watches where things
# go on side by side: streams, feeds, stand-ins, uploads, commands, limits.
# The database is made by others and not watched: that would take minutes to compile.
RACE = go test -race -gcflags='modernc.org/...=-race=false'
SIDE_BY_SIDE := Streamed|Streams|FeedOverHTTP|Reaches|StandIns|Progress|TakenOnce|SlowBody|Deadline|Throttled|Uploads|LeftRequest

unit:
	go test ./...
	$(RACE) ./internal/device
	$(RACE) -run '$(SIDE_BY_SIDE)' ./internal/api
	$(RACE) -run SideBySide ./internal/work
	@$(MAKE) --no-print-directory fuzz FUZZTIME=4000x FUZZ_WITHOUT='internal/(device|work)/'

e2e: chromium build e2e/node_modules
	node web/budget.mjs
	cd e2e && npx --no -- playwright test
	cd e2e && OJIME_NOW=$(ANOTHER_DAY) npx --no -- playwright test $(MAIN_WALKS)

# The main walks run on a leap day, too: nothing that they see may hang on the day.
ANOTHER_DAY = 2028-02-29T09:10:00Z
MAIN_WALKS = review.spec.ts

bench: ## speed, printed and kept with the code
	go test -run '^$$' -bench . -benchmem ./...

bench-large: ## the calls behind each page on 5,000 runs; the record is made once, in minutes
	OJIME_LARGE=$${OJIME_LARGE:-large-data} go test ./internal/api -run "^$$" -bench Pages -benchtime 60x

bench-pan: chromium build e2e/node_modules ## the longest task while six photographs are panned
	cd e2e && node pan-bench.mjs

# Faults of the program, the disk, the clock, the network and two who work at once, on this machine alone. It takes a
# quarter of an hour or so; OJIME_KILLS and OJIME_TRIAL_MINUTES say how much. A small disk needs leave to mount one.
trial: chromium build e2e/node_modules ## what is acknowledged, lost, doubled and corrupt under faults
	OJIME_TRIAL=1 go test ./cmd/ojime -run '^TestTrial$$' -count 1 -v -timeout 60m
	go test ./internal/work -run 'AClockThatGoesBack|TwentySaveAtOnce' -count 1 -v
	cd e2e && OJIME_NOW= npx --no -- playwright test trust.spec.ts phone.spec.ts $(MAIN_WALKS)

# Each fuzz target for a while of its own, after all that was found before; FUZZTIME says how long. In the tests those stay
# away whose packages hold the database: it would be compiled once more to be watched. What was found before is tried there too.
FUZZTIME = 1m
FUZZ_WITHOUT = ^$$
fuzz: ## every parser, fed with what nobody would type
	@grep -rHo '^func Fuzz[A-Za-z0-9]*' --include='*_test.go' cmd internal | grep -Ev '$(FUZZ_WITHOUT)' | sort | while IFS=: read -r file target; do \
		echo "$${file%/*} $${target#func }"; \
		go test "./$${file%/*}" -run '^$$' -fuzz "^$${target#func }\$$" -fuzztime $(FUZZTIME) || exit 1; \
	done

generate: web/node_modules ## queries, API document and types, after a change of schema or Go types
	cd internal/store && go tool -modfile=../../tools/go.mod sqlc generate
	go test ./internal/api -run OpenAPI -update
	go generate ./internal/guide
	cd web && npm run --silent types

# Debian's chromium drives the browser tests; elsewhere set CHROMIUM to yours.
# Debian's Chromium without a window of its own takes half of the time to open a page; the whole one does where that is missing.
chromium:
	@command -v $${CHROMIUM:-chromium-headless-shell} >/dev/null || { apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium-headless-shell >/dev/null; } || \
		command -v chromium >/dev/null || DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium >/dev/null

clean:
	rm -rf bin web/node_modules e2e/node_modules demo-data
