package texts

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/claims"
	"ojime/internal/core/contest"
	"ojime/internal/core/finding"
	"ojime/internal/core/prose"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/findings"
	"ojime/internal/work/ledger"
	"ojime/internal/work/money"
	"ojime/internal/work/reviews"
)

// contextOf is what a review's texts are read against.
func contextOf(t *store.Tx, review bench.Review, contests []reviews.Contest, found findings.FindingsSheet, claimed ledger.LedgerSheet, prices money.PriceTable) (prose.Context, error) {
	out := prose.Context{Figures: figuresOf(contests, prices)}
	for _, r := range claimed.Rows {
		if c := r.Claim; c != nil && c.Value != nil { // what is claimed may be told
			unit := map[string]string{bench.ClaimRatio: "times", bench.ClaimSize: "mm", bench.ClaimLife: "h"}[c.Kind]
			if c.Kind == bench.ClaimMeasure {
				for _, m := range claimed.Measures {
					if m.Key == c.Of {
						unit = m.Unit
					}
				}
			}
			out.Figures = append(out.Figures, prose.Figure{Name: "Claim " + c.Code, Value: *c.Value, Unit: unit})
		}
	}
	var keys []string
	for _, c := range contests {
		for _, m := range c.Results[0].Measures {
			keys = append(keys, m.Key)
		}
		for _, l := range c.Results[0].Lived {
			keys = append(keys, "lived "+l.Scale)
		}
		for _, r := range c.Results {
			for _, a := range r.Audits {
				out.Confounds = append(out.Confounds, confounds(a.Result)...)
			}
		}
	}
	slices.Sort(out.Confounds)
	out.Confounds, out.Untested = slices.Compact(out.Confounds), prose.Untested(keys)
	rows := slices.Clone(found.Offered)
	for _, p := range found.Picked {
		if p.Now != nil {
			rows = append(rows, *p.Now)
		}
	}
	for _, r := range rows {
		out.Findings = prose.Graded(out.Findings, r.Measure(), r.Grade, r.Sentence)
	}
	var err error
	if out.Ratios, err = ratiosOf(t, review); err != nil {
		return out, err
	}
	out.Names, err = namesOf(t)
	return out, err
}

// confounds are the factors that an audit found to differ, in words.
func confounds(a audit.CompareResult) (out []string) {
	for _, r := range a.Rows {
		if r.Weight != audit.None && (r.State == audit.Differs || r.State == audit.Varies) {
			out = append(out, say.Words(r.Factor))
		}
	}
	return out
}

// figuresOf are the figures of a review by their names: piece, set-up and measure, with the ends of its interval and the
// counts behind it; prices by machine.
func figuresOf(contests []reviews.Contest, prices money.PriceTable) (out []prose.Figure) {
	seen := map[string]bool{}
	add := func(name string, v float64, unit string) {
		if !seen[name] {
			seen[name], out = true, append(out, prose.Figure{Name: name, Value: v, Unit: unit})
		}
	}
	for _, c := range contests {
		result := c.Results[0]
		sides := make([]finding.Side, len(c.SetUps))
		for i, s := range c.SetUps {
			sides[i] = finding.Side{Name: s.Name, Machine: s.Machine, Resin: s.Resin, Settings: s.Settings, Label: s.Label}
		}
		names := finding.Names(sides)
		for _, m := range result.Measures {
			unit, per := m.ReadIn(prices.Currency)
			for i, e := range m.Sides {
				if e.Value == nil {
					continue
				}
				at := fmt.Sprintf("%s.%s.%s", c.Piece, names[i], short(m))
				add(at, *e.Value/per, unit)
				if e.CI != nil {
					add(at+".low", e.CI[0]/per, unit)
					add(at+".high", e.CI[1]/per, unit)
				}
				if e.Events != nil {
					add(at+".events", float64(*e.Events), "")
					add(at+".of", float64(e.Specimens), "")
				}
				add(fmt.Sprintf("%s.%s.prints", c.Piece, names[i]), float64(e.Prints), "")
			}
			for _, p := range m.Pairs {
				if p.Difference != nil && m.Kind == contest.Time {
					add(fmt.Sprintf("%s.%s over %s.%s", c.Piece, names[p.A], names[p.B], short(m)), *p.Difference, "times")
				}
			}
		}
		for i := range c.SetUps {
			for j, temp := range c.Matched.Temps(i) {
				add(fmt.Sprintf("%s.%s.temperature %d", c.Piece, names[i], j+1), temp, "°C")
			}
			for _, layer := range c.Matched.Layers(i) {
				add(fmt.Sprintf("%s.%s.layer", c.Piece, names[i]), layer, "µm")
			}
		}
	}
	for _, m := range prices.Machines {
		if m.Alike.Total != nil {
			add(m.Name+".price equipped alike", *m.Alike.Total, prices.Currency)
		}
		for _, p := range m.Prices {
			if p.Total != nil && p.Price.TakenBackMS == nil {
				add(m.Name+".price of "+p.Price.Day, *p.Total, prices.Currency)
			}
		}
	}
	return out
}

// short is what a measure is called in the name of a figure: its label up to the first comma or colon.
func short(m contest.Measure) string {
	label, _, _ := strings.Cut(m.Label, ":")
	label, _, _ = strings.Cut(label, ";")
	return strings.ToLower(label[:1]) + strings.ReplaceAll(label[1:], ".", " ")
}

// ratiosOf are what each machine of a review has over each other, of pixels and plate.
func ratiosOf(t *store.Tx, review bench.Review) (out []prose.KnownRatio, err error) {
	var plates []claims.Plate
	for _, id := range review.MachineIDs {
		m, err := t.Machine(id)
		if err != nil {
			return nil, err
		}
		if m.PxX != nil && m.PxY != nil {
			plates = append(plates, claims.Plate{WidthMM: m.WidthMM, DepthMM: m.DepthMM, PxX: *m.PxX, PxY: *m.PxY, HeightMM: &m.HeightMM})
		}
	}
	for i, a := range plates {
		for j, b := range plates {
			if i == j {
				continue
			}
			r, err := claims.Quantity(claims.QuantityInput{A: a, B: b})
			if err != nil {
				return nil, err
			}
			for _, q := range claims.Quantities() {
				if v := claims.RatioOf(q, r.Ratios); v != nil {
					out = append(out, prose.KnownRatio{Quantity: q, Value: *v})
				}
			}
		}
	}
	return out, nil
}

// namesOf are the names on record that texts may use.
func namesOf(t *store.Tx) (out []string, err error) {
	machines, err := t.Machines()
	if err != nil {
		return nil, err
	}
	for _, m := range machines {
		out = append(out, m.Name, m.Maker)
	}
	resins, err := t.Resins()
	if err != nil {
		return nil, err
	}
	for _, r := range resins {
		out = append(out, r.Name, r.Maker)
	}
	pieces, err := t.Pieces()
	if err != nil {
		return nil, err
	}
	for _, p := range pieces {
		out = append(out, p.Name)
	}
	references, err := t.References()
	for _, r := range references {
		out = append(out, r.Name)
	}
	return out, err
}
