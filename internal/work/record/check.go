package record

import (
	"context"
	"encoding/json"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/store"
	"ojime/internal/work/dialin"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
)

// Check looks for what is wrong with a record: the database itself, what it refers
// to, entries that a page cannot show or compute, and files that nothing refers to.
// Each line says what to do about it.
func (w *Tasks) Check(ctx context.Context) ([]string, error) {
	wrong, err := w.Store.Check(ctx)
	if err != nil {
		return nil, err
	}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		for _, look := range []func(*store.Tx) ([]string, error){checkKit, checkRuns, checkRest} {
			found, err := look(t)
			if err != nil {
				return err
			}
			wrong = append(wrong, found...)
		}
		found, err := w.checkFiles(t)
		wrong = append(wrong, found...)
		return err
	})
	return wrong, err
}

// entries holds every entry of a list against its bounds and, where it has any,
// its rules.
func entries[E any](what string, list []E, name func(E) string, rule func(E) error) (wrong []string) {
	for _, e := range list {
		var ruled error
		if rule != nil {
			ruled = rule(e)
		}
		for _, why := range kit.Faults(ruled, e) {
			wrong = append(wrong, fmt.Sprintf("%s %s: %s; change the entry on its page to mend it", what, name(e), why))
		}
	}
	return wrong
}

func checkKit(t *store.Tx) (wrong []string, err error) {
	machines, err := t.Machines()
	if err != nil {
		return nil, err
	}
	wrong = append(wrong, entries("machine", machines, func(m bench.Machine) string { return m.Code }, func(m bench.Machine) error {
		if err := m.Check(); err != nil {
			return err
		}
		card, err := kit.CardOfMachine(m)
		return showable(card, err)
	})...)
	resins, err := t.Resins()
	if err != nil {
		return nil, err
	}
	wrong = append(wrong, entries("resin", resins, func(r bench.Resin) string { return r.Code }, func(r bench.Resin) error {
		if err := r.Check(); err != nil {
			return err
		}
		card, err := kit.CardOfResin(r)
		return showable(card, err)
	})...)
	bottles, err := t.Bottles()
	if err != nil {
		return nil, err
	}
	wrong = append(wrong, entries("bottle", bottles, func(b bench.Bottle) string { return b.Code }, bench.Bottle.Check)...)
	pieces, err := t.Pieces()
	if err != nil {
		return nil, err
	}
	wrong = append(wrong, entries("piece", pieces, func(p bench.Piece) string { return p.Code }, nil)...)
	profiles, err := t.Profiles()
	if err != nil {
		return nil, err
	}
	return append(wrong, entries("settings", profiles, func(p bench.Profile) string { return p.Code }, bench.Profile.Check)...), nil
}

// showable reports a card that was computed and cannot be written.
func showable(card any, err error) error {
	if err != nil {
		return err
	}
	_, err = json.Marshal(card)
	return err
}

func checkRuns(t *store.Tx) (wrong []string, err error) {
	runs, err := t.Runs()
	if err != nil {
		return nil, err
	}
	code := map[string]string{}
	for _, r := range runs {
		code[r.ID] = r.Code
	}
	wrong = append(wrong, entries("run", runs, func(r bench.Run) string { return r.Code }, func(r bench.Run) error {
		if err := r.Check(); err != nil {
			return err
		}
		sheet, err := printing.ReadRunSheet(t, r.ID)
		return showable(sheet, err)
	})...)
	specimens, err := t.Specimens()
	if err != nil {
		return nil, err
	}
	wrong = append(wrong, entries("specimen", specimens, func(s bench.Specimen) string { return s.Code }, nil)...)
	labels := map[string]string{}
	for _, s := range specimens {
		labels[s.ID] = s.Code
	}
	readings, err := t.Readings()
	if err != nil {
		return nil, err
	}
	wrong = append(wrong, entries("reading of specimen", readings, func(r bench.Reading) string { return labels[r.SpecimenID] }, nil)...)
	events, err := t.RunEvents()
	if err != nil {
		return nil, err
	}
	return append(wrong, entries("event of run", events, func(e bench.RunEvent) string { return code[e.RunID] }, nil)...), nil
}

func checkRest(t *store.Tx) (wrong []string, err error) {
	knots, err := t.MachineEvents()
	if err != nil {
		return nil, err
	}
	wrong = append(wrong, entries("knot", knots, func(e bench.MachineEvent) string { return e.ID + " (" + e.Words() + ")" }, bench.MachineEvent.Check)...)
	plates, err := t.Plates()
	if err != nil {
		return nil, err
	}
	wrong = append(wrong, entries("plate", plates, func(p bench.Plate) string { return p.Code }, bench.Plate.Check)...)
	series, err := t.AllSeries()
	if err != nil {
		return nil, err
	}
	wrong = append(wrong, entries("series", series, func(s bench.Series) string { return s.Code }, func(s bench.Series) error {
		sheet, err := dialin.ReadSeries(t, s.ID)
		return showable(sheet, err)
	})...)
	reviews, err := t.Reviews()
	if err != nil {
		return nil, err
	}
	wrong = append(wrong, entries("review", reviews, func(r bench.Review) string { return r.Code }, nil)...)
	settings, err := t.Settings()
	if err != nil {
		return nil, err
	}
	return append(wrong, entries("your own figures", []bench.Settings{settings}, func(bench.Settings) string { return "" }, bench.Settings.Check)...), nil
}
