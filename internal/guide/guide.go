// Package guide is the help in the program: the whole job told once, and of each figure how it is computed, in the words of the
// core itself.
package guide

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"fmt"
	"regexp"
	"strings"
	"sync"

	"github.com/yuin/goldmark"

	"ojime/docs"
)

//go:generate go test . -run TestComputed -update

//go:embed computed.json
var computed []byte

//go:embed job.md
var job string

// Computation is a function of the core: what it says of itself with its formula and source, how it is called, what it takes and
// what it gives.
type Computation struct {
	Name    string       `json:"name"`
	Package string       `json:"package"`
	Says    string       `json:"says"`
	Form    string       `json:"form"`
	Takes   []GuideValue `json:"takes"`
	Gives   []GuideValue `json:"gives"`
}

// GuideValue is what a computation takes or gives, by its name.
type GuideValue struct {
	Name string `json:"name"`
	Kind string `json:"kind"`
	Says string `json:"says"`
}

// GuideFigure is a figure as its reader meets it, with the computations behind it, the first the one that it comes from.
type GuideFigure struct {
	Key          string   `json:"key"`
	Title        string   `json:"title"`
	Says         string   `json:"says"`
	Computations []string `json:"computations"`
}

// Chapter is a part of the job, as HTML of our own making.
type Chapter struct {
	ID    string `json:"id"`
	Title string `json:"title"`
	HTML  string `json:"html"`
	Text  string `json:"text"`
}

// Guide is all of it.
type Guide struct {
	Job []Chapter `json:"job"`
	// Views tells every view, in the order of the work.
	Views        []Chapter     `json:"views"`
	Figures      []GuideFigure `json:"figures"`
	Computations []Computation `json:"computations"`
}

// Read is the guide as it ships with the program.
var Read = sync.OnceValues(func() (Guide, error) {
	out := Guide{Figures: Figures}
	if err := json.Unmarshal(computed, &out.Computations); err != nil {
		return out, fmt.Errorf("read how figures are computed: %w", err)
	}
	var err error
	if out.Job, err = chapters(job); err != nil {
		return out, err
	}
	out.Views, err = views()
	return out, err
})

var (
	numbered = regexp.MustCompile(`(?m)^\d+\. \*\*(.+?)\.?\*\*`)
	named    = regexp.MustCompile(`(?m)^\*\*(.+?)[.,]?\*\*`)
	indented = regexp.MustCompile(`(?m)^   `)
	document = regexp.MustCompile(`\[([^\]]+)\]\((devices|security)\.md\)`)
)

// views are the chapters of the guide: its numbered parts, those that begin with a name, and the documents beside it.
func views() ([]Chapter, error) {
	text := numbered.ReplaceAllString(docs.Guide, "## $1\n")
	text = named.ReplaceAllString(indented.ReplaceAllString(text, ""), "## $1\n")
	text = document.ReplaceAllString(text, "[$1](/help#$2)")
	_, text, _ = strings.Cut(text, "## ")
	out, err := chapters("## " + text)
	if err != nil {
		return nil, err
	}
	for _, beside := range []struct{ title, text string }{{"Devices", docs.Devices}, {"Security", docs.Security}} {
		_, body, _ := strings.Cut(document.ReplaceAllString(beside.text, "$1"), "\n")
		more, err := chapters("## " + beside.title + "\n" + strings.ReplaceAll(body, "\n## ", "\n### "))
		if err != nil {
			return nil, err
		}
		out = append(out, more...)
	}
	return out, nil
}

// chapters are the parts of a text between its second headings.
func chapters(text string) (out []Chapter, err error) {
	parts := strings.Split("\n"+text, "\n## ")
	for _, part := range parts[1:] {
		title, body, _ := strings.Cut(part, "\n")
		var b bytes.Buffer
		if err := goldmark.Convert([]byte(body), &b); err != nil {
			return nil, fmt.Errorf("read the chapter %q: %w", title, err)
		}
		out = append(out, Chapter{ID: strings.ReplaceAll(strings.ToLower(title), " ", "-"), Title: title, HTML: b.String(), Text: strings.Join(strings.Fields(body), " ")})
	}
	return out, nil
}
