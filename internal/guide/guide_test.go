package guide

import (
	"encoding/json"
	"flag"
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"
)

var update = flag.Bool("update", false, "write what the core says of itself anew")

// What the guide says is what the core says of itself as it stands.
func TestComputedIsWhatTheCoreSays(t *testing.T) {
	found, err := ReadCore("../core")
	if err != nil {
		t.Fatal(err)
	}
	want, err := json.MarshalIndent(found, "", " ")
	if err != nil {
		t.Fatal(err)
	}
	if *update {
		if err := os.WriteFile("computed.json", append(want, '\n'), 0o600); err != nil {
			t.Fatal(err)
		}
		return
	}
	if strings.TrimSpace(string(computed)) != string(want) {
		t.Error("the core says something else of itself; write it anew with: go generate ./internal/guide")
	}
}

// Each figure has computations behind it that there are, and each of those says its formula or its rule.
func TestEachFigureIsComputedBySomething(t *testing.T) {
	g, err := Read()
	if err != nil {
		t.Fatal(err)
	}
	seen := map[string]bool{}
	for _, f := range g.Figures {
		if seen[f.Key] || f.Title == "" || f.Says == "" || len(f.Computations) == 0 {
			t.Errorf("%+v", f)
		}
		seen[f.Key] = true
		for _, name := range f.Computations {
			at := slices.IndexFunc(g.Computations, func(c Computation) bool { return c.Name == name })
			if at < 0 {
				t.Errorf("%s: %s is no computation of the core", f.Key, name)
				continue
			}
			if c := g.Computations[at]; len(c.Says) < 40 || len(c.Takes) == 0 || len(c.Gives) == 0 {
				t.Errorf("%s says %q, takes %v, gives %v", name, c.Says, c.Takes, c.Gives)
			}
		}
	}
	if len(g.Computations) < 100 {
		t.Errorf("%d computations", len(g.Computations))
	}
}

// The job is told in chapters that lead to pages of the program and run no script.
func TestTheJobIsToldInChapters(t *testing.T) {
	g, err := Read()
	if err != nil {
		t.Fatal(err)
	}
	links := regexp.MustCompile(`href="([^"]+)"`)
	if len(g.Job) < 8 || len(g.Views) < 12 {
		t.Errorf("%d chapters, %d views", len(g.Job), len(g.Views))
	}
	for _, c := range slices.Concat(g.Job, g.Views) {
		if c.Title == "" || len(c.Text) < 60 || strings.Contains(c.HTML, "<script") {
			t.Errorf("%s: %q", c.ID, c.Text)
		}
		for _, m := range links.FindAllStringSubmatch(c.HTML, -1) {
			if !strings.HasPrefix(m[1], "/") {
				t.Errorf("%s leads to %s, which is no page of the program", c.ID, m[1])
			}
		}
	}
}
