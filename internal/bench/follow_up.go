package bench

import (
	"strings"

	"ojime/internal/core/quantity"
)

// FollowUp is a question that a review left open, with the day (YYYY-MM-DD) on which it wants an answer: whether something
// still holds after a year, or whether an update made good what was found. Answer is what came of it.
type FollowUp struct {
	ID         string `json:"id" required:"false" readOnly:"true"`
	Version    int64  `json:"version" required:"false"`
	CreatedMS  int64  `json:"created_ms" required:"false" readOnly:"true"`
	ReviewID   string `json:"review_id" required:"false" readOnly:"true"`
	Question   string `json:"question" minLength:"1" maxLength:"300"`
	DueDay     string `json:"due_day" minLength:"10" maxLength:"10"`
	Answer     string `json:"answer" required:"false" maxLength:"1000"`
	AnsweredMS *int64 `json:"answered_ms" required:"false" readOnly:"true"`
}

// Check says what makes no sense about a follow-up.
func (f FollowUp) Check() error {
	var c quantity.Checks
	if strings.TrimSpace(f.Question) == "" {
		c.Fail("question", "is missing; say what is still open")
	}
	checkDay(&c, "due_day", &f.DueDay)
	return c.Err()
}
