package tables

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/shorthand"
	"ojime/internal/say"
)

// Column is a column of a table: Name is how files name it, with its unit; Label how the page
// does. Choices are the only words that it takes, Offers what stands on record for it. One that
// is Needed may not be empty in any row; More are shown when they are asked for; Carried ones
// begin the next row as they are in the one before. Example shows how a cell is written.
type Column struct {
	Name    string   `json:"name"`
	Label   string   `json:"label"`
	Unit    string   `json:"unit"`
	Choices []string `json:"choices"`
	Offers  []string `json:"offers"`
	Needed  bool     `json:"needed"`
	More    bool     `json:"more"`
	Carried bool     `json:"carried"`
	Number  bool     `json:"number"`
	Example string   `json:"example"`
}

// column is a Column with how its cells are read into a row and written from it. An empty cell
// is not read: the row keeps what it begins with.
type column[R any] struct {
	Column
	read  func(*R, string) error
	write func(R) string
}

func (c column[R]) needed() column[R] { c.Needed = true; return c }

func (c column[R]) more() column[R] { c.More = true; return c }

func (c column[R]) carried() column[R] { c.Carried = true; return c }

func (c column[R]) as(example string) column[R] { c.Example = example; return c }

// in shows a unit where the name says none.
func (c column[R]) in(unit string) column[R] { c.Unit = unit; return c }

// units are what the end of a name says that its numbers are in.
var units = []struct{ end, unit string }{
	{"_um", "µm"}, {"_mm", "mm"}, {"_mm_s", "mm/s"}, {"_mm_h", "mm/h"}, {"_mw_cm2", "mW/cm²"}, {"_g_ml", "g/ml"}, {"_ml", "ml"}, {"_g", "g"}, {"_s", "s"}, {"_min", "min"}, {"_h", "h"}, {"_w", "W"}, {"_pct", "%"}, {"_c", "°C"}, {"_layers", "layers"},
}

// unitOf is the unit at the end of a name; the longest ending decides.
func unitOf(name string) string {
	found := ""
	longest := 0
	for _, u := range units {
		if strings.HasSuffix(name, u.end) && len(u.end) > longest {
			found, longest = u.unit, len(u.end)
		}
	}
	return found
}

func text[R any](name, label string, at func(*R) *string) column[R] {
	return column[R]{Column{Name: name, Label: label, Choices: []string{}, Offers: []string{}},
		func(r *R, cell string) error { *at(r) = cell; return nil },
		func(r R) string { return *at(&r) }}
}

func maybeText[R any](name, label string, at func(*R) **string) column[R] {
	c := text(name, label, func(r *R) *string { return new(string) })
	c.read = func(r *R, cell string) error { *at(r) = &cell; return nil }
	c.write = func(r R) string { return quantity.Or(*at(&r), "") }
	return c
}

func number[R any](name, label string, at func(*R) *float64) column[R] {
	return maybe(name, label, func(r *R) **float64 { v := at(r); return &v }).reading(func(r *R, v float64) { *at(r) = v })
}

// maybe is a number that may stay unknown.
func maybe[R any](name, label string, at func(*R) **float64) column[R] {
	c := text(name, label, func(r *R) *string { return new(string) })
	c.Unit, c.Number = unitOf(name), true
	c.write = func(r R) string { return written(*at(&r)) }
	return c.reading(func(r *R, v float64) { *at(r) = &v })
}

func (c column[R]) reading(put func(*R, float64)) column[R] {
	c.read = func(r *R, cell string) error {
		v, err := bench.ParseQuantity(cell, c.Unit)
		if err == nil {
			put(r, v)
		}
		return err
	}
	return c
}

// whole is a whole number that may stay unknown.
func whole[R any](name, label string, at func(*R) **int64) column[R] {
	c := maybe(name, label, func(r *R) **float64 {
		var v *float64
		if n := *at(r); n != nil {
			v = quantity.Ptr(float64(*n))
		}
		return &v
	})
	c.read = func(r *R, cell string) error {
		n, err := strconv.ParseInt(cell, 10, 64)
		if err != nil {
			return fmt.Errorf("%.40q is no whole number", cell)
		}
		*at(r) = &n
		return nil
	}
	return c
}

// written is a number to the last digit, which is how a file holds it.
func written(v *float64) string {
	if v == nil {
		return ""
	}
	return strconv.FormatFloat(*v, 'f', -1, 64)
}

// choice takes one of some words of the record, however they are written.
func choice[R any](name, label string, at func(*R) *string, codes ...string) column[R] {
	c := text(name, label, at)
	for _, code := range codes {
		c.Choices = append(c.Choices, say.Words(code))
	}
	c.read = func(r *R, cell string) error {
		for _, code := range codes {
			if strings.EqualFold(cell, code) || strings.EqualFold(cell, say.Words(code)) {
				*at(r) = code
				return nil
			}
		}
		return fmt.Errorf("%.40q is none of %s", cell, strings.Join(c.Choices, ", "))
	}
	c.write = func(r R) string { return say.Words(*at(&r)) }
	return c
}

// maybeChoice is a choice that may stay open.
func maybeChoice[R any](name, label string, at func(*R) **string, codes ...string) column[R] {
	c := choice(name, label, func(r *R) *string {
		if *at(r) == nil {
			*at(r) = new(string)
		}
		return *at(r)
	}, codes...)
	c.write = func(r R) string { return say.Words(quantity.Or(*at(&r), "")) }
	return c
}

// truths are the words for yes and no.
var truths = map[string]bool{"yes": true, "y": true, "true": true, "1": true, "no": false, "n": false, "false": false, "0": false}

func truth[R any](name, label string, at func(*R) **bool) column[R] {
	c := text(name, label, func(r *R) *string { return new(string) })
	c.Choices = []string{"yes", "no"}
	c.write = func(r R) string {
		switch v := *at(&r); {
		case v == nil:
			return ""
		case *v:
			return "yes"
		}
		return "no"
	}
	return c.puttingTruth(func(r *R, v bool) { *at(r) = &v })
}

// sure is a truth that is always known.
func sure[R any](name, label string, at func(*R) *bool) column[R] {
	return truth(name, label, func(r *R) **bool { v := at(r); return &v }).puttingTruth(func(r *R, v bool) { *at(r) = v })
}

func (c column[R]) puttingTruth(put func(*R, bool)) column[R] {
	c.read = func(r *R, cell string) error {
		v, known := truths[strings.ToLower(cell)]
		if !known {
			return fmt.Errorf("%.40q is neither yes nor no", cell)
		}
		put(r, v)
		return nil
	}
	return c
}

// day is a day of the calendar, as 2026-11-25.
func day[R any](name, label string, at func(*R) **string) column[R] {
	return maybeText(name, label, at).as("2026-11-25")
}

// moves are the stages of a lift or a retract.
func moves[R any](name, label string, at func(*R) *bench.Moves) column[R] {
	c := text(name, label, func(r *R) *string { return new(string) }).as("3 at 40; 4 at 120")
	c.Unit = "mm at mm/min"
	c.read = func(r *R, cell string) (err error) {
		*at(r), err = bench.ParseMoves(cell)
		return err
	}
	c.write = func(r R) string {
		stages := []string{}
		for _, m := range *at(&r) {
			stages = append(stages, written(&m.MM)+" at "+written(&m.MMMin))
		}
		return strings.Join(stages, "; ")
	}
	return c
}

// options are further values of settings by their names.
func options[R any](name, label string, at func(*R) *bench.Options) column[R] {
	c := text(name, label, func(r *R) *string { return new(string) }).as("blur = 2 px; grey level = 4")
	c.read = func(r *R, cell string) (err error) {
		*at(r), err = bench.ParseOptions(cell)
		return err
	}
	c.write = func(r R) string { return at(&r).Text() }
	return c
}

// hexColour is how pages take a colour.
var hexColour = regexp.MustCompile(`^#[0-9a-fA-F]{6}$`)

// colour is a colour as pages show it.
func colour[R any](name, label string, at func(*R) *string) column[R] {
	c := text(name, label, at).as("#5b6b73")
	c.read = func(r *R, cell string) error {
		if !hexColour.MatchString(cell) {
			return fmt.Errorf("%.40q is no colour; write it as #5b6b73", cell)
		}
		*at(r) = cell
		return nil
	}
	return c
}

// sizes are the steps of a ladder in mm.
func sizes[R any](name, label string, at func(*R) *bench.Sizes) column[R] {
	c := text(name, label, func(r *R) *string { return new(string) }).as("0.1; 0.2; 0.3")
	c.Unit = "mm"
	c.read = func(r *R, cell string) error {
		var out bench.Sizes
		for _, word := range strings.FieldsFunc(cell, func(s rune) bool { return s == ';' || s == ' ' }) {
			v, err := bench.ParseQuantity(word, "mm")
			if err != nil {
				return err
			}
			out = append(out, v)
		}
		*at(r) = out
		return nil
	}
	c.write = func(r R) string {
		words := []string{}
		for _, v := range *at(&r) {
			words = append(words, written(&v))
		}
		return strings.Join(words, "; ")
	}
	return c
}

// duration is a time in s, written as 2h05, 2:05 or 125 min, or as seconds alone.
func duration[R any](name, label string, at func(*R) **float64) column[R] {
	c := maybe(name, label, at).as("2h05").in("2h05, or s")
	c.read = func(r *R, cell string) error {
		if v, err := strconv.ParseFloat(strings.Replace(cell, ",", ".", 1), 64); err == nil {
			*at(r) = &v
			return nil
		}
		v, err := shorthand.Duration(cell)
		if err == nil {
			*at(r) = &v
		}
		return err
	}
	return c
}

// instantForms are how an instant is written: as files have it, or by the clock on the wall.
var instantForms = []string{time.RFC3339, "2006-01-02 15:04", "2006-01-02T15:04", "2006-01-02 15:04:05"}

// instant is a moment in UTC milliseconds.
func instant[R any](name, label string, at func(*R) **int64) column[R] {
	c := text(name, label, func(r *R) *string { return new(string) }).as("2026-11-25 14:05")
	c.read = func(r *R, cell string) error {
		for _, form := range instantForms {
			if v, err := time.ParseInLocation(form, cell, time.Local); err == nil {
				*at(r) = quantity.Ptr(v.UnixMilli())
				return nil
			}
		}
		return fmt.Errorf("%.40q is no moment; write it as 2026-11-25 14:05", cell)
	}
	c.write = func(r R) string {
		if v := *at(&r); v != nil {
			return say.Instant(*v)
		}
		return ""
	}
	return c
}

// named is one of the things on record, by its code or its name.
type named struct{ id, code, name string }

// find is the id of the one that a cell names, by its code, its name, or its name without the
// code that begins it. Two of one name are told apart by their codes.
func find(cell, what string, among []named) (string, error) {
	found := slices.DeleteFunc(slices.Clone(among), func(n named) bool {
		bare := strings.TrimPrefix(n.name, n.code+" ")
		return !strings.EqualFold(n.code, cell) && !strings.EqualFold(n.name, cell) && !strings.EqualFold(bare, cell)
	})
	switch {
	case len(found) == 1:
		return found[0].id, nil
	case len(found) > 1:
		return "", fmt.Errorf("names %d %ss; write the code instead, such as %s", len(found), what, found[0].code)
	}
	return "", fmt.Errorf("%.60q is no %s on record", cell, what)
}

// offers are the names to choose from; a name that two have is offered by its code.
func offers(among []named) []string {
	out := []string{}
	for _, n := range among {
		twice := slices.ContainsFunc(among, func(o named) bool { return o.id != n.id && strings.EqualFold(o.name, n.name) })
		if n.name == "" || twice {
			out = append(out, n.code)
		} else {
			out = append(out, n.name)
		}
	}
	return out
}
