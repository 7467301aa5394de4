package bench

import (
	"strings"

	"ojime/internal/core/quantity"
)

// Remark is what annoys or pleases of a machine day by day: About what of it (the lid, cleaning,
// noise), in words, how Often, how much it weighs (1 hardly to 5 decides), for whom, and who said so.
// It is appended; one that does not hold any more is taken back.
type Remark struct {
	ID           string `json:"id" required:"false" readOnly:"true"`
	MachineID    string `json:"machine_id" required:"false" readOnly:"true"`
	AtMS         int64  `json:"at_ms" required:"false" readOnly:"true"`
	Kind         string `json:"kind" enum:"annoyance,pleasure"`
	About        string `json:"about" minLength:"1"`
	What         string `json:"what" minLength:"1"`
	Often        string `json:"often" enum:"every_print,often,now_and_then,once"`
	Weight       int64  `json:"weight" minimum:"1" maximum:"5"`
	ForWhom      string `json:"for_whom" required:"false"`
	Rater        string `json:"rater" required:"false"`
	TakenBackMS  *int64 `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string `json:"taken_back_why" required:"false" readOnly:"true"`
}

// mostWeight is the weight of what decides.
const mostWeight = 5

// Check says what makes no sense about a remark.
func (r Remark) Check() error {
	var c quantity.Checks
	if strings.TrimSpace(r.About) == "" {
		c.Fail("about", "is missing; say what of the machine it is about")
	}
	if strings.TrimSpace(r.What) == "" {
		c.Fail("what", "is missing; say what annoys or pleases")
	}
	if r.Weight < 1 || r.Weight > mostWeight {
		c.Fail("weight", "is %d; it runs from 1, hardly, to %d, it decides", r.Weight, mostWeight)
	}
	return c.Err()
}
