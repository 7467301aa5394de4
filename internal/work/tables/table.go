package tables

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/table"
	"ojime/internal/say"
	"ojime/internal/store"
)

// Fates of a row.
const (
	Kept       = "kept"       // it would be kept, or was
	Same       = "same"       // it stands on record already
	Questioned = "questioned" // it is kept only where it is confirmed
	Refused    = "refused"
	Empty      = "empty"
)

// Fault is what is wrong with a cell; Column is empty where it is the row as a whole.
type Fault struct {
	Column string `json:"column"`
	Says   string `json:"says"`
}

// RowFate is what becomes of a row, and what it was understood to say.
type RowFate struct {
	Fate   string  `json:"fate" enum:"kept,same,questioned,refused,empty"`
	Says   string  `json:"says"`
	Faults []Fault `json:"faults"`
}

// Fates is what becomes of a table, a fate a row in its order.
type Fates struct {
	Rows       []RowFate `json:"rows"`
	Kept       int       `json:"kept"`
	Same       int       `json:"same"`
	Questioned int       `json:"questioned"`
	Refused    int       `json:"refused"`
}

// batch sorts the rows of one table, each against the record and the rows before it.
type batch[R any] interface {
	// look holds a row against what stands, of which the columns were filled in that it says; the
	// fate is Kept or Same.
	look(r *R, filled map[string]bool) (fate, says string, err error)
	// keep keeps a row that look let pass, within a transaction that writes.
	keep(t *store.Tx, r R) error
}

// kind is a table of one kind of row.
type kind[R any] struct {
	name, title, each, about string
	columns                  []column[R]
	// fresh is what a row begins with.
	fresh func() R
	// onRecord are the rows that the record holds, as a file has them.
	onRecord func(w *Tasks, t *store.Tx) ([]R, error)
	// begin starts a batch; confirmed believes what would be questioned.
	begin func(w *Tasks, t *store.Tx, confirmed bool) (batch[R], error)
	// offered are the names on record, by column.
	offered func(t *store.Tx) (map[string][]string, error)
}

// anyKind is a kind whatever its rows.
type anyKind interface {
	describe(t *store.Tx) (Table, error)
	sort(w *Tasks, t *store.Tx, in Rows, keep bool) (Fates, error)
	file(w *Tasks, t *store.Tx) ([]byte, error)
	names() [][]string
}

func (k kind[R]) describe(t *store.Tx) (Table, error) {
	out := Table{Kind: k.name, Title: k.title, Each: k.each, About: k.about, Columns: []Column{}}
	offered := map[string][]string{}
	if k.offered != nil {
		var err error
		if offered, err = k.offered(t); err != nil {
			return out, err
		}
	}
	for _, c := range k.columns {
		if names := offered[c.Name]; names != nil {
			c.Offers = names
		}
		out.Columns = append(out.Columns, c.Column)
	}
	return out, nil
}

// names are what each column goes by.
func (k kind[R]) names() [][]string {
	out := [][]string{}
	for _, c := range k.columns {
		out = append(out, []string{c.Name, c.Label, strings.TrimSpace(c.Label + ", " + c.Unit)})
	}
	return out
}

// sort holds each row against the record and the rows before it, and keeps it where keep says.
func (k kind[R]) sort(w *Tasks, t *store.Tx, in Rows, keep bool) (Fates, error) {
	out := Fates{Rows: []RowFate{}}
	at := make([]int, len(in.Columns))
	for i, name := range in.Columns {
		if at[i] = slices.IndexFunc(k.columns, func(c column[R]) bool { return c.Name == name }); at[i] < 0 {
			return out, quantity.Errorf(fmt.Sprintf("columns[%d]", i), "%.60q is no column of this table", name)
		}
	}
	rows, err := k.begin(w, t, in.Confirmed)
	if err != nil {
		return out, err
	}
	for _, cells := range in.Rows {
		fate, r, filled := k.read(at, cells)
		if fate.Fate == "" {
			k.look(rows, &r, filled, &fate)
		}
		if fate.Fate == Kept && keep {
			if err := rows.keep(t, r); err != nil {
				return out, fmt.Errorf("keep row %d: %w", len(out.Rows)+1, err)
			}
		}
		out.add(fate)
	}
	return out, nil
}

// read reads the cells of a row; a fate is given where that ends it.
func (k kind[R]) read(at []int, cells []string) (fate RowFate, r R, filled map[string]bool) {
	r, fate.Faults, filled = k.fresh(), []Fault{}, map[string]bool{}
	for i, cell := range cells {
		if cell = strings.TrimSpace(cell); cell == "" || i >= len(at) {
			continue
		}
		c := k.columns[at[i]]
		filled[c.Name] = true
		if err := c.read(&r, cell); err != nil {
			fate.Faults = append(fate.Faults, Fault{c.Name, messageOf(err)})
		}
	}
	if len(filled) == 0 {
		fate.Fate = Empty
		return fate, r, filled
	}
	for _, c := range k.columns {
		if c.Needed && !filled[c.Name] {
			fate.Faults = append(fate.Faults, Fault{c.Name, "is empty"})
		}
	}
	if len(fate.Faults) > 0 {
		fate.Fate = Refused
	}
	return fate, r, filled
}

// look gives a row that could be read its fate.
func (k kind[R]) look(rows batch[R], r *R, filled map[string]bool, fate *RowFate) {
	var err error
	fate.Fate, fate.Says, err = rows.look(r, filled)
	if err == nil {
		return
	}
	fate.Fate, fate.Says = Refused, ""
	if errors.Is(err, bench.ErrQuestioned) {
		fate.Fate = Questioned
	}
	fault := Fault{Says: messageOf(err)}
	var field *quantity.FieldError
	if errors.As(err, &field) {
		fault.Column = k.columnOf(field.Path)
		if fault.Column == "" {
			fault.Says = strings.TrimSpace(say.Words(field.Path) + " " + fault.Says)
		}
	}
	fate.Faults = append(fate.Faults, fault)
}

// columnOf is the column that a field stands in; empty for none.
func (k kind[R]) columnOf(path string) string {
	if i := slices.IndexFunc(k.columns, func(c column[R]) bool { return c.Name == path || c.Name+"_id" == path || c.Name+"_ms" == path }); i >= 0 {
		return k.columns[i].Name
	}
	return ""
}

// messageOf is what an error says of its cell: without the field's name.
func messageOf(err error) string {
	var field *quantity.FieldError
	if errors.As(err, &field) {
		return field.Message
	}
	return err.Error()
}

func (f *Fates) add(fate RowFate) {
	f.Rows = append(f.Rows, fate)
	switch fate.Fate {
	case Kept:
		f.Kept++
	case Same:
		f.Same++
	case Questioned:
		f.Questioned++
	case Refused:
		f.Refused++
	}
}

// file is what the record holds of this kind as CSV.
func (k kind[R]) file(w *Tasks, t *store.Tx) ([]byte, error) {
	onRecord, err := k.onRecord(w, t)
	if err != nil {
		return nil, err
	}
	rows := make([][]string, 1, len(onRecord)+1)
	for _, c := range k.columns {
		rows[0] = append(rows[0], c.Name)
	}
	for _, r := range onRecord {
		cells := []string{}
		for _, c := range k.columns {
			cells = append(cells, c.write(r))
		}
		rows = append(rows, cells)
	}
	return table.Write(rows)
}

// differing are the labels of the columns in which a row is not as another, of those that it
// fills in.
func differing[R any](columns []column[R], filled map[string]bool, given, other R) (labels []string) {
	for _, c := range columns {
		if filled[c.Name] && c.write(given) != c.write(other) {
			labels = append(labels, strings.ToLower(c.Label))
		}
	}
	return labels
}
