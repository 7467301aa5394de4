package bench

import (
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/core/timing"
)

// SoftwareStep is a step of a piece on a computer before it is printed: which, how long it took in
// s (nil where nobody looked at a clock), by which program and version, on which computer, by whom
// (how experienced), and how it ended. It is appended; one that was wrong is taken back.
type SoftwareStep struct {
	ID              string   `json:"id" required:"false" readOnly:"true"`
	PieceID         string   `json:"piece_id" required:"false" readOnly:"true"`
	AtMS            int64    `json:"at_ms" required:"false"`
	Stage           string   `json:"stage" enum:"import,orient,support,slice,export,transfer"`
	TookS           *float64 `json:"took_s" required:"false" exclusiveMinimum:"0"`
	Software        string   `json:"software" minLength:"1"`
	SoftwareVersion string   `json:"software_version" required:"false"`
	Computer        string   `json:"computer" required:"false"`
	Person          string   `json:"person" required:"false"`
	Ended           string   `json:"ended" enum:"done,error,crash"`
	Note            string   `json:"note" required:"false"`
	TakenBackMS     *int64   `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy    string   `json:"taken_back_why" required:"false" readOnly:"true"`
}

// Check says what makes no sense about a step.
func (s SoftwareStep) Check() error {
	var c quantity.Checks
	c.AboveIf("took_s", s.TookS)
	if strings.TrimSpace(s.Software) == "" {
		c.Fail("software", "is missing; name the program")
	}
	if s.Ended != "done" && strings.TrimSpace(s.Note) == "" {
		c.Fail("note", "is missing; say what went wrong, so that it can be tried again with the next version")
	}
	return c.Err()
}

// Clocked is the step as the summaries take it.
func (s SoftwareStep) Clocked() timing.ProgramStep {
	return timing.ProgramStep{Program: s.Software, Version: s.SoftwareVersion, Piece: s.PieceID, Stage: s.Stage, TookS: s.TookS, Ended: s.Ended}
}
