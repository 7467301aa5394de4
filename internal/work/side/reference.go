package side

import (
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/setup"
	"ojime/internal/say"
	"ojime/internal/work/kit"
)

// NoPrint is why a reference has no time, failures or cost.
const NoPrint = "A reference: no print on record made it."

// ofReference are the figures of a reference: what it is, and its sizes.
func (s Prints) ofReference() (Side, error) {
	r := s.Reference
	out := Side{ReferenceID: r.ID, PieceID: s.Pieces[0].ID, Piece: s.Pieces[0].Name, Difficulty: kit.DifficultyWords(s.Pieces[0]), Label: ReferenceLabel(*r), RunIDs: []string{r.ID}, Runs: []string{r.Code},
		Copies: r.Copies, SetAside: []string{}, Corrections: []string{}, CostReason: NoPrint, Washed: "not known", Cured: "not known", Warmth: []setup.WarmContrast{}}
	var err error
	out.Dimensions, err = s.dimensions()
	return out, err
}

// ReferenceLabel is what a reference is called as a side.
func ReferenceLabel(r bench.Reference) string {
	return fmt.Sprintf("Reference %s (%s)", r.Name, say.Words(r.MadeBy))
}

// conditionsOfReference are what the audit can know of a reference: which piece it is, how
// its surface was when it was read, and by which instruments.
func (s Prints) conditionsOfReference() audit.Conditions {
	c := audit.Conditions{Piece: audit.One(s.Pieces[0].Name), ScalePct: audit.One(100.0), Instrument: word(s, s.instruments)}
	if s.Reference.Surface != nil && *s.Reference.Surface != bench.SurfaceOther { // how another one compares is not known
		c.Surface = audit.One(*s.Reference.Surface)
	}
	return c
}
