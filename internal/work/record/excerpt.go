package record

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"reflect"
	"slices"

	"ojime/internal/bench"
)

// Excerpt writes the record as one review needs it to be computed anew: without other reviews and what belongs to them, without
// photographs of other prints and of the very units, and without what changed of any of these. Machines and their prints stay
// whole, since how worn a machine was in a print follows from all that it printed before.
func (w *Tasks) Excerpt(ctx context.Context, reviewID string, runIDs []string, to io.Writer) error {
	var whole bytes.Buffer
	if err := w.Export(ctx, &whole); err != nil {
		return err
	}
	var r Record
	if err := json.Unmarshal(whole.Bytes(), &r); err != nil {
		return fmt.Errorf("read the record for review %s: %w", reviewID, err)
	}
	r.only(reviewID, runIDs)
	return json.NewEncoder(to).Encode(r)
}

// only leaves of a record what a review needs.
func (r *Record) only(reviewID string, runIDs []string) {
	gone := map[string]bool{}
	v := reflect.ValueOf(r).Elem()
	for i := range v.NumField() {
		if list := v.Field(i); list.Kind() == reflect.Slice && list.IsNil() && list.CanSet() {
			list.Set(reflect.MakeSlice(list.Type(), 0, 0)) // a list that is not there reads as none
		}
		if list := v.Field(i); list.Kind() == reflect.Slice && list.Type().Elem().Kind() == reflect.Struct && v.Type().Field(i).IsExported() {
			list.Set(without(list, gone, func(entry reflect.Value) bool { return ofAnother(entry, reviewID) }))
		}
	}
	r.Reviews = keep(r.Reviews, gone, func(x bench.Review) (string, bool) { return x.ID, x.ID == reviewID })
	r.PanelSeals = slices.DeleteFunc(r.PanelSeals, func(s bench.PanelSeal) bool { return gone[s.PanelID] })
	r.Ballots = keep(r.Ballots, gone, func(b bench.Ballot) (string, bool) { return b.ID, !gone[b.PanelID] })
	for i := range r.Plates {
		if p := &r.Plates[i]; p.ReviewPlanID != nil && gone[*p.ReviewPlanID] {
			p.ReviewPlanID, p.PlanTurn = nil, nil
		}
	}
	r.onlyPictures(reviewID, runIDs, gone)
	r.Sessions, r.Feeds, r.Messages = r.Sessions[:0], r.Feeds[:0], r.Messages[:0]
	r.Amendments = slices.DeleteFunc(r.Amendments, func(a bench.Amendment) bool { return gone[a.Entry] || a.Kind == "device" })
}

// onlyPictures leaves the photographs of a review's own prints and references, and the files that they need.
func (r *Record) onlyPictures(reviewID string, runIDs []string, gone map[string]bool) {
	shown := map[string]bool{}
	for _, p := range r.Specimens {
		if slices.Contains(runIDs, p.RunID) {
			shown[p.ID] = true
		}
	}
	for _, review := range r.Reviews {
		for _, id := range review.ReferenceIDs {
			shown[id] = true
		}
	}
	for _, p := range r.Panels {
		for _, arm := range p.Arms {
			for _, id := range arm.ItemIDs {
				shown[id] = true
			}
		}
	}
	of := func(id *string) bool { return id != nil && shown[*id] }
	r.Photographs = keep(r.Photographs, gone, func(p bench.Photograph) (string, bool) {
		return p.ID, of(p.SpecimenID) || of(p.ReferenceID) || shown[p.ID]
	})
	r.PhotoMeasures = keep(r.PhotoMeasures, gone, func(m bench.PhotoMeasure) (string, bool) { return m.ID, !gone[m.PhotographID] })
	r.UnitPhotographs = keep(r.UnitPhotographs, gone, func(p bench.UnitPhotograph) (string, bool) { return p.ID, false })
	needed := map[string]bool{}
	for _, p := range r.Photographs {
		needed[p.CopySHA256], needed[p.SmallSHA256] = true, true
	}
	for name := range r.Pictures {
		if !needed[name] {
			delete(r.Pictures, name)
		}
	}
	r.MissingPictures = slices.DeleteFunc(r.MissingPictures, func(name string) bool { return !needed[name] })
}

// ofAnother reports an entry that belongs to another review.
func ofAnother(entry reflect.Value, reviewID string) bool {
	field := entry.FieldByName("ReviewID")
	if !field.IsValid() {
		return false
	}
	if field.Kind() == reflect.Pointer {
		return !field.IsNil() && field.Elem().String() != reviewID
	}
	return field.String() != reviewID
}

// without is a list without entries of another review, whose ids are noted as gone.
func without(list reflect.Value, gone map[string]bool, other func(reflect.Value) bool) reflect.Value {
	out := reflect.MakeSlice(list.Type(), 0, list.Len())
	for i := range list.Len() {
		entry := list.Index(i)
		if other(entry) {
			if id := entry.FieldByName("ID"); id.IsValid() {
				gone[id.String()] = true
			}
			continue
		}
		out = reflect.Append(out, entry)
	}
	return out
}

// keep leaves the entries that are to stay, and notes the ids of the others as gone.
func keep[E any](list []E, gone map[string]bool, stays func(E) (id string, stay bool)) []E {
	return slices.DeleteFunc(list, func(e E) bool {
		id, stay := stays(e)
		if !stay {
			gone[id] = true
		}
		return !stay
	})
}
