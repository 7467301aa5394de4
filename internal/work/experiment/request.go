package experiment

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
)

// PlanRequest asks for the prints that a review lacks: the levels of its factors (those
// that are not named stay as they are on record), all of their combinations or the fewest
// that tell the effects apart, how many prints of each there are to be in the end, and how
// many copies of each piece a plate holds. Seed repeats a draw; nil draws anew. BaseIDs are
// settings to start from.
type PlanRequest struct {
	Levels  []FactorLevels `json:"levels" required:"false" maxItems:"40"`
	Fewest  bool           `json:"fewest" required:"false"`
	Without [][]string     `json:"without" required:"false" maxItems:"200" doc:"combinations that are not planned, by their levels"`
	Prints  int64          `json:"prints" minimum:"1" maximum:"24"`
	Copies  int64          `json:"copies" minimum:"1" maximum:"100"`
	Mixed   bool           `json:"mixed" required:"false" doc:"all pieces of the review on every plate"`
	Seed    *int64         `json:"seed" required:"false" minimum:"0" maximum:"999999"`
	BaseIDs []string       `json:"base_ids" required:"false" maxItems:"40"`
}

// FactorLevels are levels of one factor as people write them.
type FactorLevels struct {
	Factor string   `json:"factor" minLength:"1"`
	Levels []string `json:"levels" maxItems:"8"`
}

// mostCombinations bounds a plan.
const mostCombinations = 96

// factorsOf are the factors under test, a motion by its parts.
func factorsOf(review bench.Review) (out []MatrixFactor) {
	for _, f := range review.UnderTest {
		if f == motion {
			for _, part := range kit.MotionParts(bench.Profile{}) {
				key := motionPart + part.Key
				out = append(out, MatrixFactor{Key: key, Name: part.Name, Levels: []string{}, Settable: settable(key)})
			}
			continue
		}
		out = append(out, MatrixFactor{Key: f, Name: audit.Label(f), Levels: []string{}, Settable: settable(f)})
	}
	return out
}

// wanted are the factors of a plan with the levels that it is to have, in the words of the
// record.
func (p *planner) wanted() error {
	p.factors = factorsOf(p.review)
	for i := range p.factors {
		f := &p.factors[i]
		at := slices.IndexFunc(p.request.Levels, func(l FactorLevels) bool { return l.Factor == f.Key })
		if at < 0 {
			f.Levels = p.onRecord(*f)
			continue
		}
		for j, text := range p.request.Levels[at].Levels {
			words, err := p.normal(*f, text)
			if err != nil {
				return quantity.Errorf(fmt.Sprintf("levels[%d].levels[%d]", at, j), "%s", strings.TrimPrefix(err.Error(), "value "))
			}
			if !slices.Contains(f.Levels, words) {
				f.Levels = append(f.Levels, words)
			}
		}
	}
	for i, l := range p.request.Levels {
		if !slices.ContainsFunc(p.factors, func(f MatrixFactor) bool { return f.Key == l.Factor }) {
			return quantity.Errorf(fmt.Sprintf("levels[%d].factor", i), "%.40q is not under test in this review", l.Factor)
		}
	}
	p.factors = slices.DeleteFunc(p.factors, func(f MatrixFactor) bool { return len(f.Levels) == 0 && strings.HasPrefix(f.Key, motionPart) })
	count := 1
	for _, f := range p.factors {
		if len(f.Levels) == 0 {
			return quantity.Errorf("levels", "of %s are missing; say which levels it has", strings.ToLower(f.Name))
		}
		if count *= len(f.Levels); count > mostCombinations {
			return quantity.Errorf("levels", "make more than %d combinations; test fewer factors or levels at a time", mostCombinations)
		}
	}
	return nil
}

// onRecord are the levels that prints and plates of the review have; machines and resins
// are those that it names.
func (p *planner) onRecord(f MatrixFactor) []string {
	out := []string{}
	switch f.Key {
	case machineFactor:
		for _, m := range p.machines {
			out = append(out, m.Name)
		}
		return out
	case resinFactor:
		for _, r := range p.resins {
			out = append(out, r.Name)
		}
		return out
	}
	for _, known := range p.matrix.out.Factors {
		if known.Key == f.Key {
			out = append(out, known.Levels...)
		}
	}
	return out
}

// normal is a level in the words that the record would show of it.
func (p *planner) normal(f MatrixFactor, text string) (string, error) {
	text = strings.TrimSpace(text)
	if known := p.onRecord(f); slices.Contains(known, text) {
		return text, nil
	}
	if text == "" {
		return "", quantity.Errorf("value", "of %s is empty; write the level", strings.ToLower(f.Name))
	}
	if !f.Settable || f.Key == machineFactor || f.Key == resinFactor {
		return "", quantity.Errorf("value", "%.60q is no level of %s on record: %s", text, strings.ToLower(f.Name), hands(f.Key))
	}
	one := making{profile: bench.Profile{LayerUM: 50, BottomLayers: quantity.Ptr(int64(1))}, scalePct: 100}
	if err := one.set(f.Key, text, p.profiles); err != nil {
		return "", err
	}
	levels, err := p.levels(one, nil)
	for _, l := range levels {
		if l.key == f.Key {
			return l.words, err
		}
	}
	return "", err
}

// hands says what has to be done before a level can be planned that no plan sets.
func hands(key string) string {
	if key == machineFactor || key == resinFactor {
		return "name it in the review first"
	}
	return "fit or change it at the machine and tie the knot, then plan its prints"
}

// levels are those of a print as it would be made now.
func (p *planner) levels(m making, pieceIDs []string) ([]level, error) {
	placements := []bench.Placement{}
	for _, id := range pieceIDs {
		placements = append(placements, bench.Placement{PieceID: id, ScalePct: m.scalePct})
	}
	sheet := &printing.RunSheet{Profile: m.profile, Run: bench.Run{Orientation: m.plate.Orientation, Supports: m.plate.Supports, WashS: m.plate.WashS, CureS: m.plate.CureS},
		Specimens: []bench.Specimen{{ScalePct: m.scalePct}}}
	if m.plate.Software != "" {
		sheet.Run.Software = &m.plate.Software
	}
	if m.profile.MachineID != "" {
		var err error
		if sheet, err = asPrint(p.reader, m.plate, m.profile, placements, p.nowMS); err != nil {
			return nil, err
		}
	}
	return levelsOf(p.t, p.reader, sheet, p.review.UnderTest)
}

// members reads what the review names.
func (p *planner) members() error {
	for _, id := range p.review.MachineIDs {
		m, err := p.reader.Machine(id)
		if err != nil {
			return err
		}
		p.machines = append(p.machines, m)
	}
	for _, id := range p.review.ResinIDs {
		r, err := p.reader.Resin(id)
		if err != nil {
			return err
		}
		p.resins = append(p.resins, r)
	}
	for _, id := range p.review.PieceIDs {
		piece, err := p.reader.Piece(id)
		if err != nil {
			return err
		}
		p.pieces = append(p.pieces, piece)
	}
	for _, need := range []struct {
		field, one, factor string
		n                  int
	}{{"machine_ids", "machine", machineFactor, len(p.machines)}, {"resin_ids", "resin", resinFactor, len(p.resins)}} {
		switch {
		case need.n == 0:
			return quantity.Errorf(need.field, "are missing; name the %s of this review first", need.one)
		case need.n > 1 && !slices.Contains(p.review.UnderTest, need.factor):
			return quantity.Errorf("under_test", "does not hold %s, though the review names %d; put it under test, or name one", need.one, need.n)
		}
	}
	if len(p.pieces) == 0 {
		return quantity.Errorf("piece_ids", "are missing; name the pieces of this review first")
	}
	if len(p.review.UnderTest) == 0 {
		return quantity.Errorf("under_test", "is empty; say in the review what varies on purpose")
	}
	return nil
}

// planner is a plan while it is made, from the record as it is.
type planner struct {
	t        *store.Tx
	reader   *printing.Reader
	review   bench.Review
	request  PlanRequest
	nowMS    int64
	matrix   *matrix
	machines []bench.Machine
	resins   []bench.Resin
	pieces   []bench.Piece
	profiles []bench.Profile // all that are not withdrawn
	factors  []MatrixFactor
	shown    map[string][]level // what settings show, by their ids
	err      error              // what could not be read of settings
	drawn    plan.DrawResult
	sides    []onPlate
}
