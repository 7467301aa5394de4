package bench

import (
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Interest is how a machine, resin, piece (its file) or reference came to the reviewer, or what else ties the reviewer to
// whoever made it: a code that earns, a commission. Of exactly one thing, or of a review as a whole. It is appended; one that
// was wrong is taken back.
type Interest struct {
	ID           string  `json:"id" required:"false" readOnly:"true"`
	AtMS         int64   `json:"at_ms" required:"false" readOnly:"true"`
	ReviewID     *string `json:"review_id" required:"false"`
	MachineID    *string `json:"machine_id" required:"false"`
	ResinID      *string `json:"resin_id" required:"false"`
	PieceID      *string `json:"piece_id" required:"false"`
	ReferenceID  *string `json:"reference_id" required:"false"`
	How          string  `json:"how" enum:"bought,discounted,lent,given,pre_production,own_work,free_file,code,commission,advertising,none"`
	Whom         string  `json:"whom" required:"false"`
	Day          *string `json:"day" required:"false"`
	Note         string  `json:"note" required:"false"`
	TakenBackMS  *int64  `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string  `json:"taken_back_why" required:"false" readOnly:"true"`
}

// interestWords begin a sentence about each way, before and after whoever it was.
var interestWords = map[string][2]string{
	"bought": {"bought by the reviewer", "from"}, "discounted": {"bought by the reviewer at a reduced price", "from"}, "lent": {"lent", "by"}, "given": {"given, to keep", "by"},
	"pre_production": {"a pre-production sample", "of"}, "own_work": {"the reviewer's own work", "with"}, "free_file": {"free for all to use", "by"},
	"code": {"the reviewer earns by a code", "of"}, "commission": {"the reviewer was paid for this", "by"}, "advertising": {"the reviewer carries advertising", "of"}, "none": {"no tie to anybody who made it", "but"},
}

// Says is the interest in words.
func (i Interest) Says() string {
	words := interestWords[i.How]
	text := words[0]
	if whom := strings.TrimSpace(i.Whom); whom != "" {
		text += " " + words[1] + " " + whom
	}
	if i.Day != nil {
		text += ", " + *i.Day
	}
	if note := strings.TrimSuffix(strings.TrimSpace(i.Note), "."); note != "" {
		text += " (" + note + ")"
	}
	return text
}

// Check says what makes no sense about an interest.
func (i Interest) Check() error {
	var c quantity.Checks
	n := 0
	for _, id := range []*string{i.ReviewID, i.MachineID, i.ResinID, i.PieceID, i.ReferenceID} {
		if id != nil {
			n++
		}
	}
	if n != 1 {
		c.Fail("machine_id", "and its kin name %s; an interest is in one", say.Counted(int64(n), "thing"))
	}
	if _, known := interestWords[i.How]; !known {
		c.Fail("how", "is %.40q; choose one that is listed", i.How)
	}
	checkDay(&c, "day", i.Day)
	return c.Err()
}
