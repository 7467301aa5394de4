package firstdays

import (
	"context"
	"slices"
	"strconv"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// UnitSheet is the unit file of a machine with what it says in words; File is nil where it has
// none. Beside is what was in its box and in another machine's, side by side.
type UnitSheet struct {
	File       *bench.UnitFile `json:"file"`
	Provenance string          `json:"provenance"`
	Size       string          `json:"size"`
	Box        string          `json:"box"`
	Ports      string          `json:"ports"`
	Open       string          `json:"open"`
	Contacts   string          `json:"contacts"`
	Unpeeled   []string        `json:"unpeeled"`
	FirstGood  *FirstGood      `json:"first_good"`
	// Photographs names those that are kept of it, with what each shows.
	Photographs string    `json:"photographs"`
	Beside      []InBoxes `json:"beside"`
}

// InBoxes is a thing as it was found in two boxes; empty where it is not on that list.
type InBoxes struct {
	What  string `json:"what"`
	Here  string `json:"here"`
	There string `json:"there"`
}

// UnitSheetOf reads the unit file of a machine, beside that of another where one is named.
func UnitSheetOf(t *store.Tx, machineID, besideID string) (UnitSheet, error) {
	out := UnitSheet{Unpeeled: []string{}, Beside: []InBoxes{}}
	m, err := t.Machine(machineID)
	if err != nil {
		return out, err
	}
	if out.File, err = kit.UnitOf(t, machineID); err != nil {
		return out, err
	}
	out.Provenance = kit.ProvenanceOf(out.File, m)
	if u := out.File; u != nil {
		out.Size, out.Box, out.Ports, out.Open, out.Contacts = u.SizeWords(), u.BoxWords(), u.PortWords(), u.OpenWords(), u.ContactWords()
		out.Unpeeled = append(out.Unpeeled, u.Unpeeled()...)
	}
	if out.Photographs, err = photographed(t, machineID); err != nil {
		return out, err
	}
	if out.FirstGood, err = FirstGoodOf(t, machineID, out.File); err != nil {
		return out, err
	}
	if besideID == "" || out.File == nil {
		return out, nil
	}
	other, err := kit.UnitOf(t, besideID)
	if err == nil && other != nil {
		out.Beside = inBoxes(out.File.Contents, other.Contents)
	}
	return out, err
}

// photographed names the photographs of a unit by what they show: the box (HU-01).
func photographed(t *store.Tx, machineID string) (string, error) {
	photographs, err := t.UnitPhotographsOfMachine(machineID)
	words := []string{}
	for _, p := range photographs {
		if p.TakenBackMS == nil {
			words = append(words, p.Shows+" ("+p.Code+")")
		}
	}
	return say.List(words), err
}

// inBoxes sets two lists beside each other: what is on the first in its order, then what is only
// on the second. The same thing has the same name, whatever its case.
func inBoxes(here, there bench.Contents) []InBoxes {
	out := []InBoxes{}
	found := func(c bench.BoxContent) string {
		words := strings.ReplaceAll(c.Found, "_", " ")
		if c.Count > 1 {
			words += " × " + strconv.FormatInt(c.Count, 10)
		}
		if c.Note != "" {
			words += ", " + c.Note
		}
		return words
	}
	same := func(name string) func(bench.BoxContent) bool {
		return func(c bench.BoxContent) bool {
			return strings.EqualFold(strings.TrimSpace(c.What), strings.TrimSpace(name))
		}
	}
	for _, c := range here {
		row := InBoxes{What: c.What, Here: found(c)}
		if i := slices.IndexFunc(there, same(c.What)); i >= 0 {
			row.There = found(there[i])
		}
		out = append(out, row)
	}
	for _, c := range there {
		if !slices.ContainsFunc(here, same(c.What)) {
			out = append(out, InBoxes{What: c.What, There: found(c)})
		}
	}
	return out
}

// Unit reads the unit file of a machine.
func (w *Tasks) Unit(ctx context.Context, machineID, besideID string) (out UnitSheet, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = UnitSheetOf(t, machineID, besideID)
		return err
	})
	return out, err
}

// SaveUnit writes the unit file of a machine; a stale version is refused, and what was changed
// stays in its history.
func (w *Tasks) SaveUnit(ctx context.Context, machineID string, u bench.UnitFile) (UnitSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (UnitSheet, error) {
		if _, err := t.Machine(machineID); err != nil {
			return UnitSheet{}, err
		}
		if err := u.Check(); err != nil {
			return UnitSheet{}, err
		}
		if beyond := bench.Beyond(u); len(beyond) > 0 {
			return UnitSheet{}, beyond[0]
		}
		return w.putUnit(t, machineID, u, "change the unit file")
	})
}

// putUnit writes a unit file over the one that its version is of.
func (w *Tasks) putUnit(t *store.Tx, machineID string, u bench.UnitFile, command string) (UnitSheet, error) {
	old, err := kit.UnitOf(t, machineID)
	if err != nil {
		return UnitSheet{}, err
	}
	u.MachineID = machineID
	if old == nil {
		if u.ID, err = w.NewID(); err != nil {
			return UnitSheet{}, err
		}
		u.CreatedMS, u.Version = w.NowMS(), 1
	} else {
		if err := task.Stale(old.Version, u.Version); err != nil {
			return UnitSheet{}, err
		}
		u.ID, u.CreatedMS, u.Version = old.ID, old.CreatedMS, old.Version+1
		if err := w.Note(t, "unit_file", u.ID, command, "", *old, u); err != nil {
			return UnitSheet{}, err
		}
	}
	if err := t.SaveUnitFile(u); err != nil {
		return UnitSheet{}, err
	}
	return UnitSheetOf(t, machineID, "")
}

// ConfirmPeel says that a film or lock was taken off, or is to stay on, before the first print.
func (w *Tasks) ConfirmPeel(ctx context.Context, machineID, what string) (UnitSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (UnitSheet, error) {
		u, err := t.UnitFileOfMachine(machineID)
		if err != nil {
			return UnitSheet{}, err
		}
		u.Peels = slices.Clone(u.Peels)
		i := slices.IndexFunc(u.Peels, func(p bench.Peel) bool { return p.What == what && p.DoneMS == nil })
		if i < 0 {
			return UnitSheet{}, quantity.Errorf("what", "is %q, which is not among what is open; reload the page", what)
		}
		u.Peels[i].DoneMS = quantity.Ptr(w.NowMS())
		return w.putUnit(t, machineID, u, "confirm before the first print")
	})
}
