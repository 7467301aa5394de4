package bench

import (
	"cmp"
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/core/rating"
	"ojime/internal/core/viewing"
)

// What a scale of the reviewer's own is of.
const (
	ScaleOfSpecimens = "specimens"
	ScaleOfMachines  = "machines"
)

// OwnScale is a scale of the reviewer's own, of specimens or of living with machines, with an
// anchor for each of its five steps. Conditions are what a score of a machine needs to be said
// with; those of specimens are judged in sittings, which say theirs.
type OwnScale struct {
	ID         string `json:"id" required:"false" readOnly:"true"`
	CreatedMS  int64  `json:"created_ms" required:"false" readOnly:"true"`
	Name       string `json:"name" minLength:"1"`
	Anchors    Notes  `json:"anchors" minItems:"5" maxItems:"5"`
	About      string `json:"about" required:"false" enum:"specimens,machines" default:"specimens"`
	Conditions string `json:"conditions" required:"false"`
}

// Check reports what a scale lacks.
func (s OwnScale) Check() error {
	var c quantity.Checks
	if strings.TrimSpace(s.Name) == "" {
		c.Fail("name", "is missing; say what is judged")
	}
	if len(s.Anchors) != rating.Steps {
		c.Fail("anchors", "are %d; a scale has one for each of its %d steps", len(s.Anchors), rating.Steps)
	}
	for _, a := range s.Anchors {
		if strings.TrimSpace(a) == "" {
			c.Fail("anchors", "are not all written; without its anchor a step means nothing to the next rater")
		}
	}
	switch {
	case s.About != ScaleOfSpecimens && s.About != ScaleOfMachines:
		c.Fail("about", "is %.40q; a scale is of specimens or of machines", s.About)
	case s.About == ScaleOfSpecimens && s.Conditions != "":
		c.Fail("conditions", "are said by the sitting in which specimens are judged; leave them out")
	}
	return c.Err()
}

// AsScale is the scale as those of the program are.
func (s OwnScale) AsScale() rating.Scale {
	out := rating.Scale{Key: s.ID, Name: s.Name, Own: true, Questions: []string{"finish"}}
	copy(out.Anchors[:], s.Anchors)
	return out
}

// OfMachines is the scale as those of living with machines are.
func (s OwnScale) OfMachines() rating.MachineScale {
	out := rating.MachineScale{Key: s.ID, Name: s.Name, Under: s.Conditions, Own: true}
	copy(out.Anchors[:], s.Anchors)
	return out
}

// Sitting is by whom, from where, in which stage and light things were judged. It is said
// once and stands above every rating of it. Magnification is a loupe's alone. Scales are
// those that it goes through.
type Sitting struct {
	ID            string   `json:"id" required:"false" readOnly:"true"`
	CreatedMS     int64    `json:"created_ms" required:"false" readOnly:"true"`
	Rater         string   `json:"rater" minLength:"1"`
	Station       string   `json:"station" enum:"table,arms_length,in_hand,loupe"`
	Magnification *float64 `json:"magnification" required:"false" exclusiveMinimum:"1"`
	Stage         string   `json:"stage" enum:"raw,washed,cured,varnished,primed,painted"`
	Light         string   `json:"light" minLength:"1"`
	Scales        IDs      `json:"scales"`
	Note          string   `json:"note" required:"false"`
}

// Check reports what a sitting lacks.
func (s Sitting) Check() error {
	var c quantity.Checks
	if strings.TrimSpace(s.Rater) == "" {
		c.Fail("rater", "is missing; say who judges")
	}
	return cmp.Or(c.Err(), s.View().Check())
}

// View is how things were looked at in the sitting.
func (s Sitting) View() viewing.View {
	return viewing.View{Station: s.Station, Magnification: s.Magnification, Stage: s.Stage, Light: s.Light}
}

// Rating is a score of a specimen, or of a copy of a reference, on a scale, in a sitting. It
// is appended like a reading: a correction names what it corrects, and what is taken back
// stays on record.
type Rating struct {
	ID           string  `json:"id" required:"false" readOnly:"true"`
	SittingID    string  `json:"sitting_id" minLength:"1"`
	SpecimenID   *string `json:"specimen_id" required:"false"`
	ReferenceID  *string `json:"reference_id" required:"false"`
	Copy         *int64  `json:"copy" required:"false" minimum:"1"`
	Scale        string  `json:"scale" minLength:"1"`
	Score        int64   `json:"score" minimum:"0" maximum:"4"`
	AtMS         int64   `json:"at_ms" required:"false" readOnly:"true"`
	CorrectsID   *string `json:"corrects_id" required:"false" readOnly:"true"`
	TakenBackMS  *int64  `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string  `json:"taken_back_why" required:"false" readOnly:"true"`
}

// Check reports a rating of nothing, of two things, or off its scale.
func (r Rating) Check() error {
	var c quantity.Checks
	switch {
	case (r.SpecimenID != nil) == (r.ReferenceID != nil):
		c.Fail("specimen_id", "or reference_id is needed, and not both; say what was rated")
	case (r.ReferenceID != nil) != (r.Copy != nil):
		c.Fail("copy", "is needed with a reference, and with it alone")
	}
	if r.Score < 0 || r.Score >= rating.Steps {
		c.Fail("score", "is %d; a scale runs from 0 to %d", r.Score, rating.Steps-1)
	}
	return c.Err()
}

// Rated is a rating with the sitting in which it was given.
type Rated struct {
	Rating
	Sitting Sitting `json:"sitting"`
}

// Specimen is the id of what was rated among specimens, a copy of a reference too.
func (r Rating) Specimen() string {
	if r.ReferenceID != nil {
		return Reference{ID: *r.ReferenceID}.SpecimenID(*r.Copy)
	}
	return *r.SpecimenID
}

// CountingRatings are the ratings that were neither corrected nor taken back, and the rest.
func CountingRatings(all []Rated) (count, corrected []Rated) {
	replaced := map[string]bool{}
	for _, r := range all {
		if r.CorrectsID != nil && r.TakenBackMS == nil {
			replaced[*r.CorrectsID] = true
		}
	}
	count, corrected = []Rated{}, []Rated{}
	for _, r := range all {
		if replaced[r.ID] || r.TakenBackMS != nil {
			corrected = append(corrected, r)
		} else {
			count = append(count, r)
		}
	}
	return count, corrected
}
