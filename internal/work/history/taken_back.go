package history

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// restorer makes an entry that was taken back count again.
type restorer func(w *task.Base, t *store.Tx, id, why string) error

// taken are where an entry keeps that it was taken back, and why.
type taken struct {
	at  **int64
	why *string
}

// restorers are those of each kind of entry that is taken back and can be put back.
var restorers = map[string]restorer{
	"reading": restores("reading", (*store.Tx).Reading, (*store.Tx).SaveReading, func(r *bench.Reading) taken { return taken{&r.TakenBackMS, &r.TakenBackWhy} }, freeReading),
	"reference_reading": restores("reference_reading", among((*store.Tx).ReferenceReadings, func(r bench.ReferenceReading) string { return r.ID }), (*store.Tx).SaveReferenceReading,
		func(r *bench.ReferenceReading) taken { return taken{&r.TakenBackMS, &r.TakenBackWhy} }, freeReferenceReading),
	"rating":     restores("rating", (*store.Tx).Rating, (*store.Tx).SaveRating, func(r *bench.Rating) taken { return taken{&r.TakenBackMS, &r.TakenBackWhy} }, freeRating),
	"photograph": restores("photograph", (*store.Tx).Photograph, (*store.Tx).SavePhotograph, func(p *bench.Photograph) taken { return taken{&p.TakenBackMS, &p.TakenBackWhy} }, notErased(func(p bench.Photograph) bool { return p.ErasedMS != nil })),
	"unit_photograph": restores("unit_photograph", (*store.Tx).UnitPhotograph, (*store.Tx).SaveUnitPhotograph, func(p *bench.UnitPhotograph) taken { return taken{&p.TakenBackMS, &p.TakenBackWhy} },
		notErased(func(p bench.UnitPhotograph) bool { return p.ErasedMS != nil })),
	"photo_measure": restores("photo_measure", (*store.Tx).PhotoMeasure, (*store.Tx).SavePhotoMeasure, func(m *bench.PhotoMeasure) taken { return taken{&m.TakenBackMS, &m.TakenBackWhy} }, always[bench.PhotoMeasure]),
	"room_reading":  roomReading,
	"remark": restores("remark", among((*store.Tx).Remarks, func(r bench.Remark) string { return r.ID }), (*store.Tx).SaveRemark,
		func(r *bench.Remark) taken { return taken{&r.TakenBackMS, &r.TakenBackWhy} }, always[bench.Remark]),
	"finding": restores("finding", (*store.Tx).Finding, (*store.Tx).SaveFinding, func(f *bench.Finding) taken { return taken{&f.TakenBackMS, &f.TakenBackWhy} }, always[bench.Finding]),
	"claim":   restores("claim", (*store.Tx).Claim, (*store.Tx).SaveClaim, func(c *bench.LedgerClaim) taken { return taken{&c.TakenBackMS, &c.TakenBackWhy} }, always[bench.LedgerClaim]),
	"interest": restores("interest", among((*store.Tx).Interests, func(i bench.Interest) string { return i.ID }), (*store.Tx).SaveInterest,
		func(i *bench.Interest) taken { return taken{&i.TakenBackMS, &i.TakenBackWhy} }, always[bench.Interest]),
	"reader": restores("reader", (*store.Tx).Reader, (*store.Tx).SaveReader, func(r *bench.Reader) taken { return taken{&r.TakenBackMS, &r.TakenBackWhy} }, always[bench.Reader]),
	"price": restores("price", among((*store.Tx).Prices, func(p bench.Price) string { return p.ID }), (*store.Tx).SavePrice,
		func(p *bench.Price) taken { return taken{&p.TakenBackMS, &p.TakenBackWhy} }, always[bench.Price]),
	"instrument_check": restores("instrument_check", among((*store.Tx).InstrumentChecks, func(c bench.InstrumentCheck) string { return c.ID }), (*store.Tx).SaveInstrumentCheck,
		func(c *bench.InstrumentCheck) taken { return taken{&c.TakenBackMS, &c.TakenBackWhy} }, always[bench.InstrumentCheck]),
	"machine_rating": restores("machine_rating", among((*store.Tx).MachineRatings, func(r bench.MachineRating) string { return r.ID }), (*store.Tx).SaveMachineRating,
		func(r *bench.MachineRating) taken { return taken{&r.TakenBackMS, &r.TakenBackWhy} }, always[bench.MachineRating]),
	"plate_survey": restores("plate_survey", among((*store.Tx).PlateSurveys, func(s bench.PlateSurvey) string { return s.ID }), (*store.Tx).SavePlateSurvey,
		func(s *bench.PlateSurvey) taken { return taken{&s.TakenBackMS, &s.TakenBackWhy} }, always[bench.PlateSurvey]),
	"light_grid": restores("light_grid", among((*store.Tx).LightGrids, func(g bench.LightGrid) string { return g.ID }), (*store.Tx).SaveLightGrid,
		func(g *bench.LightGrid) taken { return taken{&g.TakenBackMS, &g.TakenBackWhy} }, always[bench.LightGrid]),
	"software_step": restores("software_step", among((*store.Tx).SoftwareSteps, func(s bench.SoftwareStep) string { return s.ID }), (*store.Tx).SaveSoftwareStep,
		func(s *bench.SoftwareStep) taken { return taken{&s.TakenBackMS, &s.TakenBackWhy} }, always[bench.SoftwareStep]),
	"form_reading": restores("form_reading", among((*store.Tx).FormReadings, func(r bench.FormReading) string { return r.ID }), (*store.Tx).SaveFormReading,
		func(r *bench.FormReading) taken { return taken{&r.TakenBackMS, &r.TakenBackWhy} }, always[bench.FormReading]),
	"sliced_file": restores("sliced_file", among((*store.Tx).SlicedFiles, func(f bench.SlicedFile) string { return f.ID }), (*store.Tx).SaveSlicedFile,
		func(f *bench.SlicedFile) taken { return taken{&f.TakenBackMS, &f.TakenBackWhy} }, always[bench.SlicedFile]),
}

// Restorable are the kinds of entries that can be made to count again.
func Restorable() []string { return slices.Sorted(maps.Keys(restorers)) }

// Restore makes an entry that was taken back count again, with its reason; that it was taken back
// stays in its history.
func (w *Tasks) Restore(ctx context.Context, kind, id, why string) ([]EntryChange, error) {
	restore, can := restorers[kind]
	if !can {
		return nil, quantity.Errorf("kind", "is %.40q; what can be put back is one of: %s", kind, strings.Join(Restorable(), ", "))
	}
	if why == "" {
		why = "it counts after all"
	}
	if _, err := task.Keep(ctx, w.Base, func(t *store.Tx) (struct{}, error) { return struct{}{}, restore(w.Base, t, id, why) }); err != nil {
		return nil, err
	}
	return w.Of(ctx, kind, id)
}

// takesBack reports a change by which an entry that can be put back was taken back.
func takesBack(a bench.Amendment) bool {
	var after struct {
		TakenBackMS *int64 `json:"taken_back_ms"`
	}
	_, can := restorers[a.Kind]
	return can && json.Unmarshal([]byte(a.After), &after) == nil && after.TakenBackMS != nil
}

// restores makes a restorer of a kind of entry; free says why it cannot count again.
func restores[E any](kind string, get func(*store.Tx, string) (E, error), save func(*store.Tx, E) error, of func(*E) taken, free func(*store.Tx, E) error) restorer {
	return func(w *task.Base, t *store.Tx, id, why string) error {
		e, err := get(t, id)
		if err != nil {
			return err
		}
		before := e
		back := of(&e)
		if *back.at == nil {
			return fmt.Errorf("it was not taken back, or was put back already: %w", bench.ErrConflict)
		}
		if err := free(t, e); err != nil {
			return err
		}
		*back.at, *back.why = nil, ""
		if err := w.Note(t, kind, id, "put back what was taken back", why, before, e); err != nil {
			return err
		}
		return save(t, e)
	}
}

func always[E any](*store.Tx, E) error { return nil }

func notErased[E any](erased func(E) bool) func(*store.Tx, E) error {
	return func(_ *store.Tx, e E) error {
		if erased(e) {
			return fmt.Errorf("its files were erased; keep the photograph anew: %w", bench.ErrConflict)
		}
		return nil
	}
}

// among finds an entry in the list of its kind.
func among[E any](list func(*store.Tx) ([]E, error), id func(E) string) func(*store.Tx, string) (E, error) {
	return func(t *store.Tx, wanted string) (E, error) {
		var none E
		all, err := list(t)
		if err != nil {
			return none, err
		}
		for _, e := range all {
			if id(e) == wanted {
				return e, nil
			}
		}
		return none, fmt.Errorf("%.40q: %w", wanted, bench.ErrNotFound)
	}
}

// errCountsNow says that another stands where this one would.
func errCountsNow(what string) error {
	return fmt.Errorf("another %s stands in its place now; take that back first: %w", what, bench.ErrConflict)
}

// freeReading refuses a reading whose place another took: of what it corrects, or of its rung or checkpoint.
func freeReading(t *store.Tx, r bench.Reading) error {
	run, err := t.RunOfSpecimen(r.SpecimenID)
	if err != nil {
		return err
	}
	readings, err := t.ReadingsOfRun(run)
	for _, other := range readings {
		if other.ID == r.ID || other.ID == quantity.Or(r.CorrectsID, "") || other.TakenBackMS != nil || other.SpecimenID != r.SpecimenID || other.FeatureID != r.FeatureID {
			continue
		}
		corrected := r.CorrectsID != nil && quantity.Or(other.CorrectsID, "") == *r.CorrectsID
		once := r.ValueMM == nil && quantity.Or(other.RungMM, 0) == quantity.Or(r.RungMM, 0)
		if corrected || once && quantity.Or(other.CorrectsID, "") != r.ID {
			return errCountsNow("reading")
		}
	}
	return err
}

func freeReferenceReading(t *store.Tx, r bench.ReferenceReading) error {
	readings, err := t.ReadingsOfReference(r.ReferenceID)
	for _, other := range readings {
		if other.ID != r.ID && other.TakenBackMS == nil && r.CorrectsID != nil && quantity.Or(other.CorrectsID, "") == *r.CorrectsID {
			return errCountsNow("reading")
		}
	}
	return err
}

// freeRating refuses a rating where the same was rated in the same sitting since.
func freeRating(t *store.Tx, r bench.Rating) error {
	ratings, err := t.Ratings()
	for _, other := range ratings {
		same := other.SittingID == r.SittingID && other.Scale == r.Scale && quantity.Or(other.SpecimenID, "") == quantity.Or(r.SpecimenID, "") &&
			quantity.Or(other.ReferenceID, "") == quantity.Or(r.ReferenceID, "") && quantity.Or(other.Copy, 0) == quantity.Or(r.Copy, 0)
		if same && other.ID != r.ID && other.TakenBackMS == nil && other.ID != quantity.Or(r.CorrectsID, "") {
			return errCountsNow("rating")
		}
	}
	return err
}

// roomReading puts a reading of a room back; what its print was made in follows from it again.
func roomReading(w *task.Base, t *store.Tx, id, why string) error {
	restore := restores("room_reading", (*store.Tx).RoomReading, (*store.Tx).SaveRoomReading, func(r *bench.RoomReading) taken { return taken{&r.TakenBackMS, &r.TakenBackWhy} }, always[bench.RoomReading])
	if err := restore(w, t, id, why); err != nil {
		return err
	}
	r, err := t.RoomReading(id)
	if err != nil {
		return err
	}
	return printing.RoomOfRun(t, r.RunID)
}
