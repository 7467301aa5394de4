package readers

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/cost"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/money"
	"ojime/internal/work/printing"
	"ojime/internal/work/reviews"
	"ojime/internal/work/task"
)

// MoneySheet is the money of a review: what its machines cost equipped alike, and what owning them comes to over years. Says
// is that in sentences, Recovered when each way to go on with an owned machine has paid for itself. Missing says of whom
// ownership cannot be worked out, and why.
type MoneySheet struct {
	Prices    money.PriceTable      `json:"prices"`
	Budget    bench.Budget          `json:"budget"`
	Ownership *cost.OwnershipResult `json:"ownership"`
	Says      []string              `json:"says"`
	Missing   []string              `json:"missing"`
	PerPiece  *float64              `json:"per_piece"`
	Recovered []cost.Recovered      `json:"recovered"`
	// Measured are the set-ups on which a good piece has a cost.
	Measured []MeasuredCost `json:"measured"`
}

// MeasuredCost is what a good piece costs on a set-up, as it was measured, in words too.
type MeasuredCost struct {
	Ref      bench.SetUpRef `json:"ref"`
	Name     string         `json:"name"`
	PerPiece float64        `json:"per_piece"`
	Says     string         `json:"says"`
}

type moneyKey struct {
	review string
	day    string
}

// Money reads the money of a review.
func (w *Tasks) Money(ctx context.Context, reviewID string) (out MoneySheet, err error) {
	return task.Recall(&w.Memory, w.Store.Changes(), moneyKey{reviewID, say.Day(w.NowMS())}, func() (MoneySheet, error) {
		err = w.Store.Read(ctx, func(t *store.Tx) error {
			review, err := t.Review(reviewID)
			if err != nil {
				return err
			}
			setups, err := reviews.SetUps(t, review)
			if err != nil {
				return err
			}
			contests, err := reviews.Contests(t, printing.NewReader(t), review, setups)
			if err != nil {
				return err
			}
			out, err = MoneyOf(t, review, setups, contests, w.NowMS())
			return err
		})
		return out, err
	})
}

// MoneyOf is the money of a review whose contests are known already.
func MoneyOf(t *store.Tx, review bench.Review, setups []reviews.SetUp, contests []reviews.Contest, nowMS int64) (MoneySheet, error) {
	out := MoneySheet{Says: []string{}, Missing: []string{}, Recovered: []cost.Recovered{}, Measured: []MeasuredCost{}}
	var err error
	if out.Prices, err = money.Table(t, review.MachineIDs, nowMS); err != nil {
		return out, err
	}
	if out.Budget, err = money.BudgetOf(t, review.ID); err != nil {
		return out, err
	}
	f, err := fieldOf(t, setups, contests, nowMS)
	if err != nil {
		return out, err
	}
	for _, m := range out.Prices.Machines {
		if m.Changed != "" {
			out.Says = append(out.Says, fmt.Sprintf("The price of %s changed: %s. What rests on it is worked out anew.", m.Name, m.Changed))
		}
	}
	if err := out.own(f); err != nil {
		return out, err
	}
	for i, v := range f.values(ofCost, "") {
		if v != nil {
			out.Measured = append(out.Measured, MeasuredCost{f.options[i].Ref(), f.names[i], v.value, v.says(out.Prices.Currency)})
		}
	}
	out.recover()
	return out, nil
}

// recover says when each way to go on has paid for itself; a good piece costs on it what is typed, or what was measured on a
// set-up.
func (s *MoneySheet) recover() {
	if s.PerPiece = s.Budget.PerPiece; s.PerPiece == nil && len(s.Measured) > 0 {
		s.PerPiece = &s.Measured[0].PerPiece
	}
	if s.PerPiece == nil {
		return
	}
	var paths []cost.Path
	for _, p := range s.Budget.Paths {
		path := cost.Path{Name: p.Name, Now: p.Now, Saved: p.Saved, PerPiece: p.PerPiece}
		if p.MeasuredOn != nil {
			at := slices.IndexFunc(s.Measured, func(m MeasuredCost) bool { return m.Ref == *p.MeasuredOn })
			if at < 0 {
				s.Missing = append(s.Missing, p.Name+": the set-up that it is measured on has no cost of a good piece")
				continue
			}
			path.PerPiece = s.Measured[at].PerPiece
			s.Says = append(s.Says, fmt.Sprintf("%s: a good piece costs %s then, as measured on %s.", p.Name, s.Measured[at].Says, s.Measured[at].Name))
		}
		paths = append(paths, path)
	}
	s.Recovered = cost.Recover(*s.PerPiece, paths, s.Prices.Currency)
}

// own works out what owning each machine comes to, by the set-up of each that is named first with a cost of a good piece.
func (s *MoneySheet) own(f field) error {
	perPiece := f.values(ofCost, "")
	var spread []*quantity.Interval // of the cost of a good piece, about its value
	in := cost.OwnershipInput{PiecesPerYear: s.Budget.PiecesPerYear, Years: s.Budget.Years}
	for _, m := range s.Prices.Machines {
		at := -1
		for i, o := range f.options {
			if o.MachineID == m.ID && perPiece[i] != nil && at < 0 {
				at = i
			}
		}
		switch {
		case m.Alike.Total == nil:
			s.Missing = append(s.Missing, fmt.Sprintf("%s: its price equipped alike is %s", m.Name, m.Says))
			continue
		case at < 0:
			s.Missing = append(s.Missing, m.Name+": what a good piece costs on it is not known")
			continue
		}
		owned := cost.Owned{Name: m.Name, Paid: *m.Alike.Total, Resale: quantity.Ptr(*m.Alike.Total * s.Budget.ResalePct / 100), PerGoodPiece: perPiece[at].value}
		for _, k := range s.Budget.Upkeep {
			owned.Replacements = append(owned.Replacements, cost.Replacement(k))
		}
		in.Options = append(in.Options, owned)
		if v := perPiece[at]; v.ci != nil {
			spread = append(spread, &quantity.Interval{v.ci[0] - v.value, v.ci[1] - v.value})
		} else {
			spread = append(spread, nil)
		}
		s.Says = append(s.Says, fmt.Sprintf("%s: a good piece costs %s there (%s). %s", m.Name, perPiece[at].says(s.Prices.Currency), f.names[at], perPiece[at].made()))
	}
	if len(in.Options) == 0 {
		return nil
	}
	result, err := cost.Ownership(in)
	if err != nil {
		return err
	}
	s.Ownership = &result
	for i, o := range result.Options {
		if ci := spread[i]; ci != nil {
			n := s.Budget.PiecesPerYear * s.Budget.Years
			s.Says = append(s.Says, fmt.Sprintf("Owning %s comes to %s (%s), as far as its cost of a good piece is known.", o.Name, say.InUnit(say.Figures(o.Total, 3), s.Prices.Currency), say.Interval(o.Total+n*ci[0], o.Total+n*ci[1], s.Prices.Currency)))
		}
	}
	for _, b := range result.BreakEven {
		if b.Pieces != nil {
			s.Says = append(s.Says, fmt.Sprintf("%s and %s come to the same after %s: %s at this use.", b.A, b.B, say.Counted(int64(*b.Pieces+0.5), "good piece"), years(*b.Pieces/s.Budget.PiecesPerYear)))
		} else {
			s.Says = append(s.Says, fmt.Sprintf("%s and %s never come to the same: which is cheaper stays cheaper.", b.A, b.B))
		}
	}
	return nil
}

// costParts are what a cost of a good piece may be made up of, as the cost names its parts.
var costParts = []string{"resin", "film", "light", "energy", "labour"}

// made says what is in a cost and what is not, since it has no price on record or takes none.
func (r reached) made() string {
	in, out := []string{}, []string{}
	for _, part := range costParts {
		if slices.ContainsFunc(r.holds, func(name string) bool { return strings.HasPrefix(name, part) }) {
			in = append(in, part)
		} else {
			out = append(out, part)
		}
	}
	switch {
	case len(in) == 0:
		return "What is in it varies by piece."
	case len(out) == 0:
		return "In it: " + say.List(in) + "."
	}
	return "In it: " + say.List(in) + "; without " + say.List(out) + "."
}

func years(n float64) string {
	if n < 1 {
		return say.Figures(12*n, 2) + " months"
	}
	return say.Figures(n, 2) + " years"
}
