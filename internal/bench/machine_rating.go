package bench

import (
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/core/rating"
)

// MachineRating is what one person found of living with a machine on one day, a score from 0
// to 4 on a scale of rating.OfMachines or of the reviewer's own. Conditions are those that matter to it, such as from
// how far a noise was heard.
type MachineRating struct {
	ID           string `json:"id" required:"false" readOnly:"true"`
	MachineID    string `json:"machine_id" required:"false" readOnly:"true"`
	Scale        string `json:"scale"`
	Score        int64  `json:"score" minimum:"0" maximum:"4"`
	Rater        string `json:"rater"`
	Conditions   string `json:"conditions" required:"false"`
	Note         string `json:"note" required:"false"`
	AtMS         int64  `json:"at_ms" required:"false" readOnly:"true"`
	TakenBackMS  *int64 `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string `json:"taken_back_why" required:"false" readOnly:"true"`
}

// Check reports by field what the rating lacks, scales being those of machines. A scale whose
// scores mean nothing without its conditions asks for them.
func (r MachineRating) Check(scales []rating.MachineScale) error {
	var c quantity.Checks
	scale, known := rating.MachineScaleOf(scales, r.Scale)
	if !known {
		c.Fail("scale", "is %.40q, on which no machine is rated", r.Scale)
	}
	if r.Score < 0 || r.Score >= rating.Steps {
		c.Fail("score", "is %d; scores run from 0 to %d", r.Score, rating.Steps-1)
	}
	if strings.TrimSpace(r.Rater) == "" {
		c.Fail("rater", "is missing; say who judged it")
	}
	if known && scale.Under != "" && strings.TrimSpace(r.Conditions) == "" {
		c.Fail("conditions", "are missing; say %s", scale.Under)
	}
	return c.Err()
}
