package compare

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/core/outcome"
	"ojime/internal/core/rating"
	"ojime/internal/core/setup"
	"ojime/internal/say"
	"ojime/internal/work/side"
)

// table gathers the measures of a comparison.
type table struct {
	sides    []side.Prints
	pairs    [][2]int
	features []bench.Feature
	pieces   map[string]string
	out      []contest.Measure
	// thresholds are the ladders of all sides, size by size.
	thresholds []Threshold
	ordeals    []Ordeal
	// underTest says to what failures are laid.
	underTest []string
	like      likeness
	// gauge is, by instrument, the least difference that its single readings show.
	gauge map[string]float64
	// scales are those on which anything may be rated.
	scales []rating.Scale
	// kinds are the kinds of prints, kindOf those of each side's prints.
	kinds  int
	kindOf [][]int
}

// measure fills in all measures that any side has, over all sides.
func (c *Comparison) measure(sides []side.Prints, pairs [][2]int, underTest []string, scales []rating.Scale, gauge map[string]float64) error {
	t := table{sides: sides, pairs: pairs, thresholds: []Threshold{}, ordeals: []Ordeal{}, pieces: map[string]string{}, underTest: underTest, like: likenessOf(sides, underTest), scales: scales, gauge: gauge}
	for _, s := range sides {
		for _, p := range s.Pieces {
			t.pieces[p.ID] = p.Name
		}
		for _, f := range s.Measured.Features {
			if !slices.ContainsFunc(t.features, func(o bench.Feature) bool { return o.ID == f.ID }) {
				t.features = append(t.features, f)
			}
		}
	}
	t.sort()
	for _, part := range []part{{"Failures", t.failures}, {"Finish", t.finish}, {"Scores", t.ratings}, {"Photographs", t.photographs}, {"Times", t.times}, {"Rework", t.rework}, {"Ladders", t.ladders},
		{"Checks", t.checkpoints}, {"Sizes", t.sizes}, {"Forms", t.forms}, {"Stress", t.stresses}} {
		if err := c.Gaps.Leave(part.name, part.work()); err != nil {
			return err
		}
	}
	t.costs(c.Sides)
	c.apart = map[string]bool{}
	for _, s := range sides {
		for _, sheet := range s.Sheets {
			c.apart[sheet.Run.ID] = t.like.apart(sheet) != ""
		}
	}
	c.Measures, c.Thresholds, c.Ordeals = t.out, t.thresholds, t.ordeals
	return nil
}

func (t *table) add(m contest.Measure, questions ...string) {
	m.Questions = questions
	for i := range m.Sides {
		e := &m.Sides[i]
		if t.sides[i].Reference == nil {
			continue
		}
		if e.Prints = 0; e.Value == nil && m.Kind != contest.Length && m.Kind != contest.Score && m.Kind != contest.Level {
			e.Note = side.NoPrint
		}
		e.Note = strings.TrimSpace(strings.Replace(e.Note, contest.OnePrint, "", 1))
	}
	for i := range m.Pairs {
		if p := &m.Pairs[i]; t.sides[p.A].Reference != nil || t.sides[p.B].Reference != nil {
			p.P, p.LeastP, p.PrintsNeeded, p.Verdict = nil, nil, nil, evidence.NotShown
			p.Reason = "A reference is one thing, so that there is no p."
		}
	}
	t.out = append(t.out, m)
}

// label names a feature, with its piece where there are several.
func (t *table) label(f bench.Feature, more string) string {
	name := f.Name + more
	if len(t.pieces) > 1 {
		name += " of " + t.pieces[f.PieceID]
	}
	return name
}

// failures are all of them, and those laid to what is under test: the resin where it is
// and the machine is not, else the machine.
func (t *table) failures() error {
	type rate struct {
		key, label string
		failed     func(outcome.Counts) int64
		question   string
	}
	laid := rate{"failures_machine", "Failures laid to the machine", func(c outcome.Counts) int64 { return c.ByMachine }, audit.Failure}
	if slices.Contains(t.underTest, "resin") && !slices.Contains(t.underTest, "machine") {
		laid = rate{"failures_resin", "Failures laid to the resin", func(c outcome.Counts) int64 { return c.ByResin }, audit.Failure}
	}
	for _, of := range []rate{
		{"failures", "Failures, all", func(c outcome.Counts) int64 { return c.Failed }, audit.Failure}, laid,
		{"marks", "Marked in printing, usable", func(c outcome.Counts) int64 { return c.MicroPrinted }, audit.Finish},
	} {
		if err := t.rates(of.key, of.label, of.question, t.byPieces(of.failed)); err != nil {
			return err
		}
	}
	return nil
}

// rates adds shares of judged copies, piece by piece where prints hold several.
func (t *table) rates(key, label, question string, strata [][][]evidence.PrintCount) error {
	if len(strata) > 1 {
		label += "; differences piece by piece"
	}
	m, err := contest.MatchedRates(key, label, strata, t.pairs, nil)
	if err != nil {
		return err
	}
	t.add(m, question)
	return nil
}

// byPieces are the counts of prints by what lay on their plates: pieces that fail more
// often must not weigh on the side that printed them more often.
func (t *table) byPieces(failed func(outcome.Counts) int64) [][][]evidence.PrintCount {
	return t.strata(func(of, print int) []evidence.PrintCount {
		return setup.PrintCounts(t.sides[of].Prints[print:print+1], failed)
	})
}

// strata are what is counted on prints, by their kind and side.
func (t *table) strata(of func(of, print int) []evidence.PrintCount) [][][]evidence.PrintCount {
	strata := make([][][]evidence.PrintCount, t.kinds)
	for at := range strata {
		strata[at] = make([][]evidence.PrintCount, len(t.sides))
	}
	for i, s := range t.sides {
		if s.Reference != nil {
			continue
		}
		for j := range s.Prints {
			at := t.kindOf[i][j]
			strata[at][i] = append(strata[at][i], of(i, j)...)
		}
	}
	return strata
}

// sort finds the kinds of prints: those that hold the same pieces, and in the same resin
// and layers where a side mixes them.
func (t *table) sort() {
	kinds := map[string]int{}
	for _, s := range t.sides {
		of := make([]int, len(s.Sheets))
		for j, sheet := range s.Sheets {
			if s.Reference != nil {
				continue // its kind is nobody's
			}
			ids := make([]string, len(sheet.Pieces))
			for k, p := range sheet.Pieces {
				ids[k] = p.ID
			}
			slices.Sort(ids)
			kind := strings.Join(ids, " ") + t.like.unlike(sheet)
			at, known := kinds[kind]
			if !known {
				at = len(kinds)
				kinds[kind] = at
			}
			of[j] = at
		}
		t.kindOf = append(t.kindOf, of)
	}
	t.kinds = max(1, len(kinds))
}

func (t *table) sizes() error {
	errorsOf := make([]sizeErrors, 0, len(t.features))
	for _, f := range t.features {
		if f.Kind != "dimension" {
			continue
		}
		sides := make([]evidence.NestedSide, len(t.sides))
		on := make([][]int, len(t.sides))
		for i, s := range t.sides {
			sides[i], on[i] = s.Nested(s.Of(f.ID))
		}
		if !anyPrints(sides) {
			continue
		}
		m, err := contest.Errors("size "+f.ID, t.label(f, fmt.Sprintf(", %s mm along %s: error", say.Figure(*f.NominalMM), *f.Axis)), sides, *f.NominalMM, t.pairs)
		if err != nil {
			return err
		}
		m.SmallestMM = t.coarsest(f.ID)
		t.add(m, audit.Dimension)
		errorsOf = append(errorsOf, sizeErrors{f.PieceID, lessNominal(sides, *f.NominalMM), on})
	}
	return t.meanErrors(errorsOf)
}

func (t *table) checkpoints() error {
	for _, f := range t.features {
		if f.Kind != "checkpoint" {
			continue
		}
		sides := make([][]evidence.PrintCount, len(t.sides))
		judged := false
		for i, s := range t.sides {
			sides[i] = s.Of(f.ID).Checks()
			judged = judged || len(sides[i]) > 0
		}
		if !judged {
			continue
		}
		m, err := contest.Rates("checkpoint "+f.ID, t.label(f, ": present"), sides, t.pairs, nil)
		if err != nil {
			return err
		}
		m = contest.Present(m)
		m.Alike = m.AllAlike()
		t.add(m, audit.Detail)
	}
	return nil
}

// costs have no test: their interval is that of the yield.
func (t *table) costs(figures []side.Side) {
	m := contest.Measure{Key: "cost", Label: "Cost of a good piece", Kind: contest.Money, Pairs: []contest.Pair{}}
	for _, s := range figures {
		e := contest.Estimate{Prints: int64(len(s.Runs)), Specimens: s.Outcomes.Judged, Note: s.CostReason}
		if s.Cost != nil {
			e.Value, e.CI = s.Cost.PerGoodPiece, s.Cost.PerGoodCI
			if e.Value == nil && len(s.Cost.Warnings.Warnings) > 0 {
				e.Note = s.Cost.Warnings.Warnings[0].Message
			}
		}
		m.Sides = append(m.Sides, e)
	}
	t.add(m, audit.Cost)
}
