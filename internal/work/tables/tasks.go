// Package tables takes many entries at once: rows that were typed or pasted are held against the
// record one by one, each with what becomes of it, before any is kept. The same rows come out as
// a file, and in again.
package tables

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/table"
	"ojime/internal/store"
	"ojime/internal/work/inspect"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	kit      *kit.Tasks
	printing *printing.Tasks
	inspect  *inspect.Tasks
}

// New makes them.
func New(base *task.Base, k *kit.Tasks, p *printing.Tasks, i *inspect.Tasks) *Tasks {
	return &Tasks{base, k, p, i}
}

// Table is what a table asks for: Title names it, Each one of its rows.
type Table struct {
	Kind    string   `json:"kind"`
	Title   string   `json:"title"`
	Each    string   `json:"each"`
	About   string   `json:"about"`
	Columns []Column `json:"columns"`
}

// Rows are rows of a table, their cells in the order of the columns that they name. Confirmed
// keeps rows that are questioned, too.
type Rows struct {
	Columns   []string   `json:"columns" minItems:"1" maxItems:"60"`
	Rows      [][]string `json:"rows" maxItems:"2000"`
	Confirmed bool       `json:"confirmed" required:"false"`
}

// Pasted is a text that was pasted into a table, as rows of cells. Columns name the column of
// each cell where the first row did, and are empty else; Left are the names that no column has.
type Pasted struct {
	Columns []string   `json:"columns"`
	Rows    [][]string `json:"rows"`
	Left    []string   `json:"left"`
}

// kinds are the tables by their names.
func kinds() map[string]anyKind {
	return map[string]anyKind{"machines": machines, "resins": resins, "settings": settings, "features": features, "prints": prints, "outcomes": outcomes}
}

// kindOf is a table by its name.
func kindOf(name string) (anyKind, error) {
	k, known := kinds()[name]
	if !known {
		return nil, fmt.Errorf("table %.40q: %w", name, bench.ErrNotFound)
	}
	return k, nil
}

// Describe is what a table asks for, with the names on record to choose from.
func (w *Tasks) Describe(ctx context.Context, name string) (out Table, err error) {
	k, err := kindOf(name)
	if err != nil {
		return out, err
	}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = k.describe(t)
		return err
	})
	return out, err
}

// Paste reads a text that was pasted into a table. What cannot be read is an error of text.
func (w *Tasks) Paste(name, text string) (Pasted, error) {
	out := Pasted{Columns: []string{}, Rows: [][]string{}, Left: []string{}}
	k, err := kindOf(name)
	if err != nil {
		return out, err
	}
	rows, err := table.Read(text)
	if err != nil {
		return out, quantity.Errorf("text", "%v", err)
	}
	at, named := table.Place(rows[0], k.names())
	if !named {
		out.Rows = rows
		return out, nil
	}
	for i, cell := range rows[0] {
		if at[i] < 0 {
			if cell != "" {
				out.Left = append(out.Left, cell)
			}
			continue
		}
		out.Columns = append(out.Columns, k.names()[at[i]][0])
	}
	for _, row := range rows[1:] {
		cells := []string{}
		for i := range at {
			switch {
			case at[i] < 0:
			case i < len(row):
				cells = append(cells, row[i])
			default:
				cells = append(cells, "")
			}
		}
		out.Rows = append(out.Rows, cells)
	}
	return out, nil
}

// Look says what becomes of each row, and keeps none.
func (w *Tasks) Look(ctx context.Context, name string, in Rows) (out Fates, err error) {
	k, err := kindOf(name)
	if err != nil {
		return out, err
	}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = k.sort(w, t, in, false)
		return err
	})
	return out, err
}

// Keep keeps the rows that can be kept, all in one transaction, and says of every other why it
// is not.
func (w *Tasks) Keep(ctx context.Context, name string, in Rows) (Fates, error) {
	k, err := kindOf(name)
	if err != nil {
		return Fates{}, err
	}
	// What takes long to work out, such as slices, is worked out and remembered before the
	// record is held for writing.
	if _, err := w.Look(ctx, name, in); err != nil {
		return Fates{}, err
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Fates, error) { return k.sort(w, t, in, true) })
}

// File is what the record holds of a table as CSV, which Paste reads again.
func (w *Tasks) File(ctx context.Context, name string) (data []byte, err error) {
	k, err := kindOf(strings.TrimSuffix(name, ".csv"))
	if err != nil {
		return nil, err
	}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		data, err = k.file(w, t)
		return err
	})
	return data, err
}

// namedOf makes entries of the record ready to be found by their codes and names.
func namedOf[E any](list []E, of func(E) named) []named {
	out := make([]named, len(list))
	for i, e := range list {
		out[i] = of(e)
	}
	return out
}

func machinesNamed(t *store.Tx) ([]named, error) {
	list, err := t.Machines()
	return namedOf(list, func(m bench.Machine) named { return named{m.ID, m.Code, m.Name} }), err
}

func resinsNamed(t *store.Tx) ([]named, error) {
	list, err := t.Resins()
	return namedOf(list, func(r bench.Resin) named { return named{r.ID, r.Code, r.Name} }), err
}

func piecesNamed(t *store.Tx) ([]named, error) {
	list, err := t.PieceNames()
	return namedOf(list, func(p store.PieceName) named { return named{p.ID, p.Code, p.Name} }), err
}

// nameOf is the name of the one of an id.
func nameOf(id string, among []named) string {
	i := slices.IndexFunc(among, func(n named) bool { return n.id == id })
	if i < 0 {
		return ""
	}
	return offers(among)[i]
}
