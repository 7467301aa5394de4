package compare

import (
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/contest"
	"ojime/internal/core/quantity"
	"ojime/internal/core/rating"
	"ojime/internal/store"
	"ojime/internal/work/inspect"
	"ojime/internal/work/printing"
	"ojime/internal/work/side"
	"ojime/internal/work/task"
)

// Match loads groups of runs and computes what they show.
func Match(t *store.Tx, reader *printing.Reader, req ComparisonRequest) (Matched, error) {
	p, err := Load(t, reader, req)
	if err != nil {
		return Matched{}, err
	}
	return p.Compute()
}

// Loaded is a comparison of which everything is read from the record and nothing computed yet.
type Loaded struct {
	Matched
	req    ComparisonRequest
	sides  []side.Prints
	prices bench.Settings
	scales []rating.Scale
	gauge  map[string]float64
}

// pairs are those that are set against each other.
func (p *Loaded) pairs() [][2]int {
	if p.req.Each {
		return contest.Between(len(p.sides), -1)
	}
	return contest.Between(len(p.sides), p.req.Baseline)
}

// Load reads groups of runs from the record, with all that a comparison of them rests on.
func Load(t *store.Tx, reader *printing.Reader, req ComparisonRequest) (p *Loaded, err error) {
	if err := checkRequest(req); err != nil {
		return nil, err
	}
	p = &Loaded{req: req, sides: make([]side.Prints, len(req.Sides))}
	if p.prices, err = t.Settings(); err != nil {
		return nil, err
	}
	if p.scales, err = inspect.AllScales(t); err != nil {
		return nil, err
	}
	load, err := side.NewLoader(t, reader)
	if err != nil {
		return nil, err
	}
	var all []string
	for _, runs := range req.Sides {
		all = append(all, runs...)
	}
	if _, err := reader.Sheets(all...); err != nil { // all at once, to be asked for one by one
		return nil, err
	}
	for i, runs := range req.Sides {
		if p.sides[i], err = load.Side(runs, req.PieceID); err != nil {
			return nil, err
		}
	}
	if p.gauge, _, err = gauges(t, load.Instruments); err != nil {
		return nil, err
	}
	return p, p.readBeside(t)
}

// readBeside reads what stands beside the figures of a comparison.
func (p *Loaded) readBeside(t *store.Tx) (err error) {
	out := &p.comparison
	out.Gaps = quantity.Gaps{}
	out.Baseline, out.Each, out.Pieces = p.req.Baseline, p.req.Each, piecesOf(p.sides)
	if out.Measuring, err = measuringOf(t, p.sides); err != nil {
		return err
	}
	if out.Lived, err = livedOf(t, p.sides); err != nil {
		return err
	}
	if out.Remarked, err = remarkedOf(t, p.sides); err != nil {
		return err
	}
	out.Faults, out.InTime = side.FaultsOf(p.sides)
	if out.Remedies, err = side.RemediesOf(t, p.sides, out.Faults); err != nil {
		return err
	}
	if out.Panels, err = panelsOf(t, p.sides); err != nil {
		return err
	}
	return p.changesBetween(t, p.sides)
}

// part is one part of a comparison and how it is worked out.
type part struct {
	name string
	work func() error
}

// Compute works out what the loaded groups show. It asks the record nothing, so several may be worked out side by side.
func (p *Loaded) Compute() (m Matched, err error) {
	out, sides := &p.comparison, p.sides
	p.conditions = make([]audit.Conditions, len(sides))
	if err := task.Abreast(len(sides), func(i int) error {
		p.conditions[i] = sides[i].Conditions()
		return nil
	}); err != nil {
		return m, err
	}
	if out.Sides, err = side.FiguresOf(sides, p.prices); err != nil {
		return m, err
	}
	for _, s := range out.Sides {
		for _, gap := range s.Gaps {
			out.Gaps = append(out.Gaps, quantity.Uncomputed{Part: gap.Part + " of " + s.Letter, Why: gap.Why})
		}
	}
	for i, name := range p.req.Names {
		if name != "" {
			out.Sides[i].Label = name
		}
	}
	p.underTest = slices.DeleteFunc(slices.Clone(p.req.UnderTest), func(f string) bool {
		return f == "prints" || !slices.Contains(audit.Factors(), f)
	})
	p.policy = p.req.Policy
	if err = p.matchPairs(); err != nil {
		return m, err
	}
	p.unfair()
	if err = out.measure(sides, p.pairs(), p.underTest, p.scales, p.gauge); err != nil {
		return m, err
	}
	if out.Counted, err = contest.Adjust(out.Measures, p.req.deciding().holds); err != nil {
		return m, err
	}
	contest.BelowGauge(out.Measures)
	out.Stages = stageSentences(out.Measures)
	out.Pictures, out.FaultsBy = picturesOf(sides), side.FaultsByOther(sides)
	for _, part := range []part{
		{"How far ratings agree", func() error { out.Agreement, err = agreement(sides); return err }},
		{"What eyes are expected to see", func() error { out.Expected, err = expectedOf(sides, out.Measures, p.scales); return err }},
		{"What eyes can tell", func() error { out.Eyes, err = eyesOf(sides, p.pairs()); return err }},
		{"Where the time goes", func() error { return out.explainTimes(sides) }},
	} {
		if err := out.Gaps.Leave(part.name, part.work()); err != nil {
			return m, err
		}
	}
	return p.Matched, nil
}
