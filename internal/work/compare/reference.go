package compare

import (
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/setup"
	"ojime/internal/say"
	"ojime/internal/work/kit"
)

// noPrint is why a reference has no time, failures or cost.
const noPrint = "A reference: no print on record made it."

// ofReference are the figures of a reference: what it is, and its sizes.
func (s side) ofReference() (Side, error) {
	r := s.reference
	out := Side{ReferenceID: r.ID, PieceID: s.pieces[0].ID, Piece: s.pieces[0].Name, Difficulty: kit.DifficultyWords(s.pieces[0]), Label: ReferenceLabel(*r), RunIDs: []string{r.ID}, Runs: []string{r.Code},
		Copies: r.Copies, SetAside: []string{}, Corrections: []string{}, CostReason: noPrint, Washed: "not known", Cured: "not known", Warmth: []setup.WarmContrast{}}
	var err error
	out.Dimensions, err = s.measured.Dimensions()
	return out, err
}

// ReferenceLabel is what a reference is called as a side.
func ReferenceLabel(r bench.Reference) string {
	return fmt.Sprintf("Reference %s (%s)", r.Name, say.Words(r.MadeBy))
}

// conditionsOfReference are what the audit can know of a reference: which piece it is, how
// its surface was when it was read, and by which instruments.
func (s side) conditionsOfReference() audit.Conditions {
	c := audit.Conditions{Piece: audit.One(s.pieces[0].Name), ScalePct: audit.One(100.0), Instrument: word(s, s.instruments)}
	if s.reference.Surface != nil {
		c.Surface = audit.One(*s.reference.Surface)
	}
	return c
}
