package history

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/store"
	"ojime/internal/work/firstdays"
	"ojime/internal/work/inspect"
	"ojime/internal/work/instruments"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
	"ojime/internal/work/reviews"
	"ojime/internal/work/tally"
	"ojime/internal/work/task"
	"ojime/internal/work/templates"
	"ojime/internal/work/upkeep"
)

// putter puts a change back by the command that changes such an entry.
type putter func(ctx context.Context, a bench.Amendment, why string) error

// owned are the fields that no command of an entry sets.
var owned = []string{"id", "code", "version", "created_ms"}

func ofEntry(name string) bool { return !slices.Contains(owned, name) }

// putters are those of each kind of entry that can be put back.
func putters(k *kit.Tasks, n *instruments.Tasks, m *templates.Tasks, f *firstdays.Tasks, u *upkeep.Tasks, p *printing.Tasks, i *inspect.Tasks, r *reviews.Tasks, y *tally.Tasks) map[string]putter {
	return map[string]putter{
		"machine":   whole(k.Base, (*store.Tx).Machine, k.SaveMachine),
		"resin":     whole(k.Base, (*store.Tx).Resin, k.SaveResin),
		"bath":      whole(u.Base, (*store.Tx).Bath, u.SaveBath),
		"assembly":  whole(k.Base, (*store.Tx).Assembly, y.SaveAssembly),
		"reference": whole(i.Base, (*store.Tx).Reference, i.SaveReference),
		"review":    whole(r.Base, (*store.Tx).Review, asItWas(r)),
		"bottle": part(k.Base, (*store.Tx).Bottle, ofEntry, func(ctx context.Context, b bench.Bottle, change json.RawMessage, why string) error {
			_, err := k.CorrectBottle(ctx, b.ID, b.Version, change, why)
			return err
		}),
		"machine_event": part(k.Base, (*store.Tx).MachineEvent, ofEntry, func(ctx context.Context, e bench.MachineEvent, change json.RawMessage, why string) error {
			_, err := k.CorrectEvent(ctx, e.ID, e.Version, change, why)
			return err
		}),
		"run": part(p.Base, (*store.Tx).Run, printing.MayAmend, func(ctx context.Context, run bench.Run, change json.RawMessage, why string) error {
			_, err := p.AmendRun(ctx, run.ID, run.Version, change, why, true)
			return err
		}),
		"instrument": part(k.Base, (*store.Tx).Instrument, func(name string) bool { return name == "name" }, func(ctx context.Context, e bench.Instrument, change json.RawMessage, _ string) error {
			named, err := task.Merge(e, change, "name")
			if err == nil {
				_, err = n.RenameInstrument(ctx, e.ID, e.Version, named.Name)
			}
			return err
		}),
		"profile": part(k.Base, (*store.Tx).Profile, func(name string) bool { return slices.Contains([]string{"name", "note", "template_since_ms"}, name) }, func(ctx context.Context, e bench.Profile, change json.RawMessage, _ string) error {
			before, err := task.Merge(e, change, "name", "note", "template_since_ms")
			switch {
			case err != nil:
			case (before.TemplateSinceMS == nil) != (e.TemplateSinceMS == nil):
				_, err = m.MakeTemplate(ctx, e.ID, e.Version, before.TemplateSinceMS != nil)
			default:
				_, err = k.NameProfile(ctx, e.ID, e.Version, before.Name, before.Note)
			}
			return err
		}),
		"specimen":  judged(i),
		"workroom":  whole(k.Base, (*store.Tx).Workroom, m.SaveRoom),
		"checklist": whole(k.Base, (*store.Tx).Checklist, m.SaveChecklist),
		"unit_file": whole(k.Base, among((*store.Tx).UnitFiles, func(u bench.UnitFile) string { return u.ID }), func(ctx context.Context, u bench.UnitFile) (firstdays.UnitSheet, error) {
			return f.SaveUnit(ctx, u.MachineID, u)
		}),
		"piece": part(k.Base, (*store.Tx).Piece, func(name string) bool { return name == "kind" }, func(ctx context.Context, e bench.Piece, change json.RawMessage, _ string) error {
			before, err := task.Merge(e, change, "kind")
			if err == nil {
				_, err = k.SaveKind(ctx, e.ID, e.Version, before.Kind)
			}
			return err
		}),
	}
}

// asItWas puts a review back: the order of its write-up and the names of its set-ups have commands of their own.
func asItWas(r *reviews.Tasks) func(context.Context, bench.Review) (bench.Review, error) {
	return func(ctx context.Context, before bench.Review) (bench.Review, error) {
		now, err := r.Review(ctx, before.ID)
		if err == nil && !reflect.DeepEqual(now.Blocks, before.Blocks) {
			now, err = r.WriteUpAs(ctx, now.ID, now.Version, before.Blocks)
		}
		if err == nil && !reflect.DeepEqual(now.SetUps, before.SetUps) {
			now, err = r.NameSetUps(ctx, now.ID, before.SetUps)
		}
		before.Version, before.Blocks, before.SetUps = now.Version, now.Blocks, now.SetUps
		if err != nil || reflect.DeepEqual(now, before) {
			return now, err
		}
		return r.SaveReview(ctx, before)
	}
}

// whole puts back an entry that is saved as a whole.
func whole[E, Out any](w *task.Base, get func(*store.Tx, string) (E, error), save func(context.Context, E) (Out, error)) putter {
	return part(w, get, ofEntry, func(ctx context.Context, e E, change json.RawMessage, _ string) error {
		var names []string
		var named map[string]json.RawMessage
		if err := json.Unmarshal(change, &named); err != nil {
			return err
		}
		for name := range named {
			names = append(names, name)
		}
		before, err := task.Merge(e, change, names...)
		if err == nil {
			_, err = save(ctx, before)
		}
		return err
	})
}

// part puts back the fields of an entry that its command may change.
func part[E any](w *task.Base, get func(*store.Tx, string) (E, error), may func(string) bool, put func(context.Context, E, json.RawMessage, string) error) putter {
	return func(ctx context.Context, a bench.Amendment, why string) error {
		e, err := task.ReadOne(ctx, w, a.Entry, get)
		if err != nil {
			return err
		}
		change, err := fieldsOf(a, e, may)
		if err != nil {
			return err
		}
		return put(ctx, e, change, why)
	}
}

// judged puts the judgement of a specimen back: its outcome and its note, with the defects that it
// had then. A defect that was taken back since is noted anew.
func judged(i *inspect.Tasks) putter {
	may := func(name string) bool { return slices.Contains([]string{"outcome", "note", "defects"}, name) }
	return part(i.Base, specimen, may, func(ctx context.Context, s bench.Specimen, change json.RawMessage, _ string) error {
		before, err := task.Merge(s, change, "outcome", "note", "defects")
		if err != nil {
			return err
		}
		before.Defects = slices.DeleteFunc(before.Defects, func(d bench.Defect) bool { return d.TakenBackMS != nil })
		for n, d := range before.Defects {
			if slices.ContainsFunc(s.Defects, func(now bench.Defect) bool { return now.ID == d.ID && now.TakenBackMS != nil }) {
				before.Defects[n].ID = ""
			}
		}
		_, err = i.JudgeSpecimens(ctx, s.RunID, []bench.Specimen{before})
		return err
	})
}

// specimen is one copy of a print.
func specimen(t *store.Tx, id string) (bench.Specimen, error) {
	runID, err := t.RunOfSpecimen(id)
	if err != nil {
		return bench.Specimen{}, err
	}
	list, err := t.SpecimensOfRun(runID)
	if i := slices.IndexFunc(list, func(s bench.Specimen) bool { return s.ID == id }); err == nil && i >= 0 {
		return list[i], nil
	}
	return bench.Specimen{}, errors.Join(err, fmt.Errorf("specimen %s: %w", id, bench.ErrNotFound))
}
