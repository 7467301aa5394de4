package publish

import (
	"bytes"
	"embed"
	"fmt"
	"regexp"
	"strings"
	"text/template"

	"ojime/internal/say"
	"ojime/internal/work/dataset"
)

//go:embed parts/*.md
var partFiles embed.FS

// parts are the templates of the parts of a write-up, one file each. Each figure stands with its unit, n and interval.
var parts = escaping(template.Must(template.New("parts").Funcs(template.FuncMap{
	"policy":      func(p string) string { return strings.ReplaceAll(p, "_", " ") },
	"inline":      inline,
	"figure":      say.Figure,
	"counted":     func(n int64, one string) string { return say.Counted(n, one) },
	"or":          typed,
	"cell":        cell,
	"clock":       clock,
	"lasts":       say.Duration,
	"unknowns":    unknowns,
	"letter":      func(i int) string { return string(rune('A' + i)) },
	"micrometres": say.Micrometres,
	"day":         dayOf,
	"plain":       func(mm float64) string { return fmt.Sprintf("%.0f µm", 1000*mm) },
	"grade":       say.Words,
	"factors":     factorNames,
	"settings":    settingsLines,
	"conditions":  conditionLines,
	"join":        strings.Join,
	"pictures":    pictureLine,
	"held":        heldLine,
	"figures":     say.Figures,
	"percent":     say.Percent,
	"inunit":      func(v float64, unit string) string { return say.InUnit(say.Figure(v), unit) },
	"score":       scoreWords,
	"interest":    func(i string) string { return dataset.Interests[i] },
}).ParseFS(partFiles, "parts/*.md")))

// dayOf is the day of an instant that may not be known.
func dayOf(ms any) string {
	switch v := ms.(type) {
	case int64:
		return say.Day(v)
	case *int64:
		if v != nil {
			return say.Day(*v)
		}
	}
	return ""
}

var gaps = regexp.MustCompile(`\n{3,}`)

// part is a part of a write-up as Markdown; empty where there is nothing to say.
func part(name string, data any) (string, error) {
	var b bytes.Buffer
	if err := parts.ExecuteTemplate(&b, name+".md", data); err != nil {
		return "", fmt.Errorf("write the part %q: %w", name, err)
	}
	return strings.TrimSpace(gaps.ReplaceAllString(b.String(), "\n\n")), nil
}
