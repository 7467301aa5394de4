package bench

import (
	"ojime/internal/core/quantity"
	"ojime/internal/core/viewing"
)

// SpecimenStage is a stage of its surface that a specimen came to, with the minutes of rework
// on the way; one in the stage that it is in already is rework alone. It is appended; one that
// was wrong is taken back.
type SpecimenStage struct {
	ID          string   `json:"id"`
	SpecimenID  string   `json:"specimen_id"`
	Stage       string   `json:"stage" enum:"raw,washed,cured,varnished,primed,painted"`
	AtMS        int64    `json:"at_ms"`
	ReworkMin   *float64 `json:"rework_min"`
	Note        string   `json:"note"`
	TakenBackMS *int64   `json:"taken_back_ms"`
}

// Check reports a stage that is none, and minutes that are none.
func (s SpecimenStage) Check() error {
	var c quantity.Checks
	c.OneOf("stage", s.Stage, viewing.Stages...)
	c.AboveIf("rework_min", s.ReworkMin)
	return c.Err()
}

// ReachedBy are the stages that a specimen came to: washed and cured as its print was, from
// the end of it, then what was noted of it and not taken back.
func ReachedBy(r Run, stages []SpecimenStage, specimenID string) (out []viewing.Reached) {
	if r.EndedMS != nil {
		if quantity.Or(r.WashS, 0) > 0 {
			out = append(out, viewing.Reached{Stage: "washed", AtMS: *r.EndedMS})
		}
		if quantity.Or(r.CureS, 0) > 0 {
			out = append(out, viewing.Reached{Stage: "cured", AtMS: *r.EndedMS})
		}
	}
	for _, s := range stages {
		if s.SpecimenID == specimenID && s.TakenBackMS == nil {
			out = append(out, viewing.Reached{Stage: s.Stage, AtMS: s.AtMS})
		}
	}
	return out
}

// ReworkOf adds up the minutes of rework on a specimen; nil where none is noted.
func ReworkOf(stages []SpecimenStage, specimenID string) (out *float64) {
	for _, s := range stages {
		if s.SpecimenID == specimenID && s.TakenBackMS == nil && s.ReworkMin != nil {
			out = quantity.Ptr(quantity.Or(out, 0) + *s.ReworkMin)
		}
	}
	return out
}
