package bench

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/core/outcome"
	"ojime/internal/core/quantity"
)

// Reference is one or more copies of a piece that no print on record made: castings, bought
// ones, prints by another process or another person. It has readings like specimens, and no
// time, failures or cost. Provenance says where it comes from.
type Reference struct {
	ID         string  `json:"id" required:"false" readOnly:"true"`
	Code       string  `json:"code" required:"false" readOnly:"true"`
	Version    int64   `json:"version" required:"false"`
	CreatedMS  int64   `json:"created_ms" required:"false" readOnly:"true"`
	Name       string  `json:"name" minLength:"1"`
	PieceID    string  `json:"piece_id" minLength:"1"`
	MadeBy     string  `json:"made_by" enum:"casting,bought,another_process,another_person,unknown"`
	Provenance string  `json:"provenance" minLength:"1"`
	Copies     int64   `json:"copies" minimum:"1" maximum:"99"`
	Surface    *string `json:"surface" required:"false" enum:"raw,primed,painted,other" doc:"other: say which in the note"`
	Note       string  `json:"note" required:"false"`
}

// Surfaces are those that a reference may have; of SurfaceOther its note says which.
var Surfaces = []string{"raw", "primed", "painted", SurfaceOther}

// SurfaceOther is a surface that is none of the usual ones. How it compares is not known.
const SurfaceOther = "other"

// Check refuses a surface that is none of the list, and another one without a note. It names the reference.
func (r Reference) Check() error {
	switch {
	case r.Surface == nil:
		return nil
	case !slices.Contains(Surfaces, *r.Surface):
		return quantity.Errorf("surface", "of %s is %q. Use raw, primed, painted or other, and say more in the note", r.Name, *r.Surface)
	case *r.Surface == SurfaceOther && strings.TrimSpace(r.Note) == "":
		return quantity.Errorf("note", "of %s is empty. Its surface is another one: say which, such as \"varnished, matt\"", r.Name)
	}
	return nil
}

// PlainSurface is a reference whose surface was typed freely, with the word of the list that it begins with; what was typed
// stays in its note.
func (r Reference) PlainSurface() Reference {
	if r.Surface == nil || slices.Contains(Surfaces, *r.Surface) {
		return r
	}
	typed := strings.TrimSpace(*r.Surface)
	if typed == "" {
		r.Surface = nil
		return r
	}
	word := SurfaceOther
	for _, s := range Surfaces[:3] {
		if strings.HasPrefix(strings.ToLower(typed), s) {
			word = s
		}
	}
	r.Surface, r.Note = &word, strings.TrimPrefix(r.Note+"; surface: "+typed, "; ")
	return r
}

// Specimens are the copies of the reference, so that they are read as specimens are.
func (r Reference) Specimens() []Specimen {
	out := make([]Specimen, r.Copies)
	for i := range out {
		n := int64(i + 1)
		out[i] = Specimen{ID: r.SpecimenID(n), RunID: r.ID, PieceID: r.PieceID, Copy: n, Code: fmt.Sprintf("%s-%02d", r.Code, n), Outcome: outcome.Whole, ScalePct: 100, Version: 1, Defects: []Defect{}}
	}
	return out
}

// SpecimenID is what a copy of the reference is called among specimens.
func (r Reference) SpecimenID(n int64) string { return fmt.Sprintf("%s-%d", r.ID, n) }

// ReferenceReading is a reading of a copy of a reference, appended like any other: a
// correction names what it corrects, and what is taken back stays on record.
type ReferenceReading struct {
	ID           string   `json:"id" required:"false" readOnly:"true"`
	ReferenceID  string   `json:"reference_id" required:"false" readOnly:"true"`
	Copy         int64    `json:"copy" minimum:"1"`
	FeatureID    string   `json:"feature_id" minLength:"1"`
	InstrumentID *string  `json:"instrument_id" required:"false"`
	RecordedMS   int64    `json:"recorded_ms" required:"false" readOnly:"true"`
	ValueMM      *float64 `json:"value_mm" required:"false" exclusiveMinimum:"0"`
	RungMM       *float64 `json:"rung_mm" required:"false" exclusiveMinimum:"0"`
	Intact       *bool    `json:"intact" required:"false"`
	State        *string  `json:"state" required:"false" enum:"present,damaged,missing"`
	CorrectsID   *string  `json:"corrects_id" required:"false"`
	TakenBackMS  *int64   `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string   `json:"taken_back_why" required:"false" readOnly:"true"`
}

// Of is the reading as one of a specimen.
func (r ReferenceReading) Of(ref Reference) Reading {
	return Reading{ID: r.ID, SpecimenID: ref.SpecimenID(r.Copy), FeatureID: r.FeatureID, InstrumentID: r.InstrumentID, RecordedMS: r.RecordedMS, ValueMM: r.ValueMM, RungMM: r.RungMM, Intact: r.Intact,
		State: r.State, CorrectsID: r.CorrectsID, TakenBackMS: r.TakenBackMS, TakenBackWhy: r.TakenBackWhy}
}
