// Package shorthand keeps what is said in one line. It first says what the line means, and keeps
// that and nothing else.
package shorthand

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/shorthand"
	"ojime/internal/store"
	"ojime/internal/work/inspect"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
	"ojime/internal/work/upkeep"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	kit      *kit.Tasks
	upkeep   *upkeep.Tasks
	printing *printing.Tasks
	inspect  *inspect.Tasks
}

// New makes them.
func New(base *task.Base, k *kit.Tasks, u *upkeep.Tasks, p *printing.Tasks, i *inspect.Tasks) *Tasks {
	return &Tasks{base, k, u, p, i}
}

// Understood is what a line means in words, and where that is to be seen: on a run, a machine,
// or the resin of a bottle, by its id.
type Understood struct {
	Says  string `json:"says"`
	About string `json:"about" enum:"run,machine,resin"`
	ID    string `json:"id"`
}

// Saying is a line to be kept: Says is what it was understood to mean when it was shown, and
// Confirmed believes what was asked about.
type Saying struct {
	Text      string `json:"text" minLength:"1" maxLength:"300"`
	Says      string `json:"says" minLength:"1"`
	Confirmed bool   `json:"confirmed" required:"false"`
}

// Understand says what a line means, and keeps nothing.
func (w *Tasks) Understand(ctx context.Context, text string) (out Understood, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		m, err := w.meant(t, text)
		out = m.Understood
		return err
	})
	return out, err
}

// Keep keeps what a line means, where that is still what was shown.
func (w *Tasks) Keep(ctx context.Context, s Saying) (Understood, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Understood, error) {
		m, err := w.meant(t, s.Text)
		if err != nil {
			return m.Understood, err
		}
		if m.Says != s.Says {
			return m.Understood, fmt.Errorf("the record moved on, and the line now means: %s Press Enter again to keep that: %w", m.Says, bench.ErrConflict)
		}
		if err := m.keep(t, s.Confirmed); err != nil || m.plateID == "" {
			return m.Understood, err
		}
		return m.Understood, m.ofPlate(t)
	})
}

// meaning is what a line means on the record as it is, and how that is kept.
type meaning struct {
	Understood
	keep func(t *store.Tx, confirmed bool) error
	// plateID is set where what is kept becomes a print of that plate.
	plateID string
}

// ofPlate names the print that was put on record.
func (m *meaning) ofPlate(t *store.Tx) error {
	runs, err := t.RunsOfPlate(m.plateID)
	if len(runs) > 0 {
		m.ID = runs[len(runs)-1].ID
	}
	return err
}

func (w *Tasks) meant(t *store.Tx, text string) (meaning, error) {
	names, err := namesOf(t, text)
	if err != nil {
		return meaning{}, err
	}
	line, err := shorthand.Read(text, names)
	if errors.Is(err, shorthand.ErrNothing) {
		return meaning{}, quantity.Errorf("text", "%v. %s", err, shorthand.Help)
	}
	if err != nil {
		return meaning{}, quantity.Errorf("text", "%v", err)
	}
	switch line.Does {
	case shorthand.Weigh:
		return w.weighed(t, line)
	case shorthand.Knot:
		return w.tied(t, line)
	case shorthand.Room:
		return w.aired(t, line)
	case shorthand.End:
		if line.PlateID != "" {
			return w.printed(t, line)
		}
		return w.ended(t, line)
	}
	return w.happened(t, line)
}

// namesOf are the things of the record that a line may name: all machines and bottles, and the
// prints whose number stands in it.
func namesOf(t *store.Tx, text string) (out shorthand.Names, err error) {
	machines, err := t.Machines()
	if err != nil {
		return out, err
	}
	for _, m := range machines {
		out.Machines = append(out.Machines, shorthand.Name{ID: m.ID, Code: m.Code, Name: m.Name})
	}
	resins, err := t.Resins()
	if err != nil {
		return out, err
	}
	bottles, err := t.Bottles()
	if err != nil {
		return out, err
	}
	resin := task.ByID(resins, func(r bench.Resin) string { return r.ID })
	for _, b := range bottles {
		out.Bottles = append(out.Bottles, shorthand.Name{ID: b.ID, Code: b.Code, Name: resin[b.ResinID].Name})
	}
	plates, err := t.UnprintedPlates()
	if err != nil {
		return out, err
	}
	for _, p := range plates {
		out.Plates = append(out.Plates, shorthand.Name{ID: p.ID, Code: p.Code})
	}
	seen := map[string]bool{}
	for _, word := range strings.Fields(text) {
		number := strings.TrimLeft(strings.Trim(strings.ToLower(word), "r:-"), "0")
		if len(number) == 0 || len(number) > 6 || strings.Trim(number, "0123456789") != "" || seen[number] {
			continue
		}
		seen[number] = true
		runs, err := t.RunLines(store.RunFilter{Code: number, Most: 50})
		if err != nil {
			return out, err
		}
		for _, r := range runs {
			if !seen[r.ID] {
				seen[r.ID] = true
				out.Runs = append(out.Runs, shorthand.Name{ID: r.ID, Code: r.Code})
			}
		}
	}
	return out, nil
}
