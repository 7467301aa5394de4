// Package internal_test holds the import rules of the project. When it fails,
// move the code to the room where it belongs; do not widen the table.
package internal_test

import (
	"os/exec"
	"slices"
	"strings"
	"testing"
)

// allowed lists, for each room, what of the project it may import. Core
// packages may also import each other.
var allowed = []struct {
	room    string
	imports []string
}{
	{"ojime/internal/say", nil},
	{"ojime/internal/core", []string{"ojime/internal/core", "ojime/internal/say"}},
	{"ojime/internal/wire", []string{"ojime/internal/core/quantity"}},
	{"ojime/internal/bench", []string{"ojime/internal/core", "ojime/internal/say"}},
	{"ojime/internal/store", []string{"ojime/internal/bench", "ojime/internal/store/db"}},
	{"ojime/internal/work", []string{"ojime/internal/store", "ojime/internal/bench", "ojime/internal/core", "ojime/internal/say"}},
	{"ojime/internal/demo", []string{"ojime/internal/work", "ojime/internal/store", "ojime/internal/bench", "ojime/internal/core"}},
	{"ojime/internal/door", nil},
	{"ojime/docs", nil},
	{"ojime/internal/guide", []string{"ojime/docs"}},
	{"ojime/internal/api", []string{"ojime/internal/door", "ojime/internal/work", "ojime/internal/bench", "ojime/internal/core", "ojime/internal/wire", "ojime/internal/device", "ojime/internal/guide"}},
	{"ojime/internal/device", []string{"ojime/internal/work", "ojime/internal/bench", "ojime/internal/core", "ojime/internal/say"}},
	{"ojime/cmd", []string{"ojime/internal/api", "ojime/internal/door", "ojime/internal/device", "ojime/internal/bench", "ojime/internal/demo", "ojime/internal/store", "ojime/internal/work"}},
}

// steps are the packages of internal/work in the order of the work: each may import
// only those before it. record takes everything in and out, and benchview shows
// what is next, so they stand last.
var steps = []string{"task", "kit", "disclosure", "instruments", "templates", "firstdays", "upkeep", "planning", "dialin", "printing", "sliced", "aftercare", "diagnosis", "repeat", "feed", "inspect", "shorthand", "tables", "photographs", "stress", "resincard", "side", "ballots", "compare", "reviews", "findings", "panels", "tally", "experiment", "ledger", "money", "readers", "texts", "calendar", "history", "cards", "dataset", "publish", "benchview", "record", "bundle"}

// coreOutside is what core may import from outside: text, numbers, order, the
// open formats of models and pictures, and gonum. No context, os, net, SQL, JSON, log, clock or global chance.
var coreOutside = []string{"archive/zip", "bufio", "bytes", "cmp", "encoding/binary", "encoding/csv", "encoding/xml", "errors", "fmt", "image", "io", "math", "path", "regexp", "slices", "sort", "strconv",
	"strings", "sync", "unicode", "gonum.org/v1/gonum"}

func within(path string, rooms []string) bool {
	return slices.ContainsFunc(rooms, func(room string) bool { return path == room || strings.HasPrefix(path, room+"/") })
}

func listImports(t *testing.T) map[string][]string {
	t.Helper()
	out, err := exec.Command("go", "list", "-f", `{{.ImportPath}} {{join .Imports " "}}`, "ojime/...").Output()
	if err != nil {
		t.Fatalf("go list: %v", err)
	}
	found := map[string][]string{}
	for _, line := range strings.Split(strings.TrimSpace(string(out)), "\n") {
		words := strings.Fields(line)
		found[words[0]] = words[1:]
	}
	return found
}

func TestImportsRunOneWay(t *testing.T) {
	found := listImports(t)
	for pkg, imports := range found {
		for _, rule := range allowed {
			if !within(pkg, []string{rule.room}) {
				continue
			}
			for _, path := range imports {
				ours := strings.HasPrefix(path, "ojime/")
				if ours && !within(path, append(rule.imports, rule.room)) {
					t.Errorf("%s imports %s; %s may import %v", pkg, path, rule.room, rule.imports)
				}
				if !ours && rule.room == "ojime/internal/core" && !within(path, coreOutside) {
					t.Errorf("%s imports %s; core computes and knows nothing of it", pkg, path)
				}
			}
		}
	}
	// A check that can never fail proves nothing: one edge must be there.
	if !slices.Contains(found["ojime/internal/work"], "ojime/internal/store") {
		t.Error("the list of imports misses that work uses store; the test sees nothing")
	}
}

func TestStepsOfTheWorkImportOnlyThoseBefore(t *testing.T) {
	const work = "ojime/internal/work"
	seen := 0
	for pkg, imports := range listImports(t) {
		step, within := strings.CutPrefix(pkg, work+"/")
		if !within {
			continue
		}
		at := slices.Index(steps, step)
		if at < 0 {
			t.Errorf("%s is no step of the work; give it its place in the list", pkg)
			continue
		}
		for _, path := range imports {
			before, ours := strings.CutPrefix(path, work+"/")
			if ours && slices.Index(steps, before) >= at {
				t.Errorf("%s imports %s, which comes later in the work", pkg, path)
			}
			if path == work {
				t.Errorf("%s imports %s, which is made of it", pkg, path)
			}
			if ours {
				seen++
			}
		}
	}
	if seen == 0 {
		t.Error("no step imports another; the test sees nothing")
	}
}

func TestEveryPackageHasARoom(t *testing.T) {
	for pkg := range listImports(t) {
		if !slices.ContainsFunc(allowed, func(r struct {
			room    string
			imports []string
		}) bool {
			return within(pkg, []string{r.room})
		}) && pkg != "ojime/internal" {
			t.Errorf("%s stands in no room of the table", pkg)
		}
	}
}
