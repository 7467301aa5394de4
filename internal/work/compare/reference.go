package compare

import (
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/setup"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
)

// noPrint is why a reference has no time, failures or cost.
const noPrint = "A reference: no print on record made it."

// ofReference are the figures of a reference: what it is, and its sizes.
func (s side) ofReference() (Side, error) {
	r := s.reference
	out := Side{ReferenceID: r.ID, PieceID: s.pieces[0].ID, Piece: s.pieces[0].Name, Difficulty: kit.DifficultyWords(s.pieces[0]), Label: referenceLabel(*r), RunIDs: []string{r.ID}, Runs: []string{r.Code},
		Copies: r.Copies, SetAside: []string{}, CostReason: noPrint, Washed: "not known", Cured: "not known", Warmth: []setup.WarmContrast{}}
	var err error
	out.Dimensions, err = s.measured.Dimensions()
	return out, err
}

func referenceLabel(r bench.Reference) string {
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

// referenceSetUps are the references of a review as sides of their pieces.
func referenceSetUps(t *store.Tx, r bench.Review) ([]SetUp, error) {
	var out []SetUp
	for _, id := range r.ReferenceIDs {
		ref, err := t.Reference(id)
		if err != nil {
			return nil, err
		}
		piece, err := t.Piece(ref.PieceID)
		if err != nil {
			return nil, err
		}
		out = append(out, SetUp{ReferenceID: ref.ID, Label: referenceLabel(ref), About: ref.Provenance, PieceID: piece.ID, Piece: piece.Name, RunIDs: []string{ref.ID}, Runs: []string{ref.Code}, Specimens: ref.Copies, LeftOutIDs: []string{}})
	}
	return out, nil
}

// printed are the sides that prints made.
func printed(setups []SetUp) (out []SetUp) {
	for _, s := range setups {
		if s.ReferenceID == "" {
			out = append(out, s)
		}
	}
	return out
}
