// Package resincard brings together what was measured of a resin, over all of its prints, and
// sets the maker's words apart from it.
package resincard

import (
	"context"
	"fmt"
	"math"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/cost"
	"ojime/internal/core/evidence"
	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
	"ojime/internal/core/resin"
	"ojime/internal/core/setup"
	"ojime/internal/core/stats"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/inspect"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
}

// New makes them.
func New(base *task.Base) *Tasks {
	return &Tasks{Base: base}
}

// Card is what was measured of a resin, what is not known yet, and apart from both what its
// maker says of it.
type Card struct {
	Resin     bench.Resin    `json:"resin"`
	Prints    int            `json:"prints"`
	Figures   []ResinFigure  `json:"figures"`
	Missing   []ResinMissing `json:"missing"`
	Claims    []string       `json:"claims"`
	Weighings []Weighing     `json:"weighings"`
}

// ResinFigure is one figure with its n and conditions. Source is measured, computed or judged.
type ResinFigure struct {
	What       string `json:"what"`
	Value      string `json:"value"`
	N          string `json:"n"`
	Conditions string `json:"conditions"`
	Source     string `json:"source"`
}

// ResinMissing is what is not known of a resin, and how it comes to be.
type ResinMissing struct {
	What string `json:"what"`
	How  string `json:"how"`
}

// Weighing is a weighing with its density.
type Weighing struct {
	bench.ResinWeighing
	DensityGML float64 `json:"density_g_ml"`
}

// Card reads the card of one resin.
func (w *Tasks) Card(ctx context.Context, resinID string) (out Card, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = w.cardOf(t, resinID)
		return err
	})
	return out, err
}

// known is what a card is made from.
type known struct {
	resin     bench.Resin
	sheets    []*printing.RunSheet
	steps     map[string][]bench.ProcessStep
	weighings []Weighing
	bottles   []bench.Bottle
	price     *cost.PriceResult
	nowMS     int64
	currency  string
}

func (w *Tasks) cardOf(t *store.Tx, resinID string) (Card, error) {
	k := known{nowMS: w.NowMS()}
	var err error
	if k.resin, err = t.Resin(resinID); err != nil {
		return Card{}, err
	}
	ids, err := t.RunsOfResin(resinID)
	if err != nil {
		return Card{}, err
	}
	if k.sheets, err = printing.NewReader(t).Sheets(ids...); err != nil {
		return Card{}, err
	}
	if k.steps, err = t.StepsOfRuns(ids); err != nil {
		return Card{}, err
	}
	if err := k.readStock(t); err != nil {
		return Card{}, err
	}
	out := Card{Resin: k.resin, Prints: len(k.sheets), Figures: []ResinFigure{}, Missing: []ResinMissing{}, Claims: append([]string{}, k.resin.Claims...), Weighings: k.weighings}
	scales, err := inspect.AllScales(t)
	if err != nil {
		return out, err
	}
	for _, part := range []func() ([]ResinFigure, *ResinMissing, error){k.density, k.stiffness, k.stresses, k.clarity, func() ([]ResinFigure, *ResinMissing, error) { return k.ratings(scales) }, k.washing, k.curing, k.supports, k.failures, k.money, k.age} {
		figures, missing, err := part()
		if err != nil {
			return out, err
		}
		out.Figures = append(out.Figures, figures...)
		if missing != nil {
			out.Missing = append(out.Missing, *missing)
		}
	}
	out.Claims = append(out.Claims, k.label()...)
	return out, nil
}

func (k *known) readStock(t *store.Tx) error {
	k.weighings = []Weighing{}
	weighings, err := t.ResinWeighings()
	if err != nil {
		return err
	}
	for _, v := range weighings {
		if v.ResinID == k.resin.ID {
			k.weighings = append(k.weighings, Weighing{v, v.DensityGML()})
		}
	}
	bottles, err := t.Bottles()
	if err != nil {
		return err
	}
	for _, b := range bottles {
		if b.ResinID == k.resin.ID {
			k.bottles = append(k.bottles, b)
		}
	}
	settings, err := t.Settings()
	if err != nil {
		return err
	}
	k.currency = settings.Currency
	if card, err := kit.CardOfResin(k.resin); err == nil {
		k.price = card.Price
	}
	return nil
}

// label is what the label states, as claims.
func (k known) label() (out []string) {
	if s := k.resin.StatedWashS; s != nil {
		out = append(out, "Wash for "+say.Duration(*s)+", says the label.")
	}
	if s := k.resin.StatedCureS; s != nil {
		out = append(out, "Cure for "+say.Duration(*s)+", says the label.")
	}
	if w := k.resin.Window(); w.Stated() {
		out = append(out, "Prints at "+w.Words()+", says its maker.")
	}
	return out
}

// mean is a mean with its interval by t, as words.
func mean(values []float64, unit string) string {
	text := say.Figure(stats.Mean(values)) + " " + unit
	if n := float64(len(values)); n >= 2 {
		half := stats.T(n-1) * math.Sqrt(stats.SampleVar(values)/n)
		if half > 0 {
			text += fmt.Sprintf(" (%s)", say.Interval(stats.Mean(values)-half, stats.Mean(values)+half, unit))
		}
	}
	return text
}

func (k known) density() ([]ResinFigure, *ResinMissing, error) {
	var values []float64
	for _, w := range k.weighings {
		if w.TakenBackMS == nil {
			values = append(values, w.DensityGML)
		}
	}
	if len(values) == 0 {
		return nil, &ResinMissing{"Density", "weigh a known volume of it, below"}, nil
	}
	f := ResinFigure{What: "Density, liquid", Value: mean(values, "g/ml"), N: say.Counted(int64(len(values)), "weighing"), Source: "measured"}
	if stated := k.resin.DensityGML; stated != nil {
		f.Conditions = fmt.Sprintf("%s g/ml is entered, and used for cost", say.Figure(*stated))
	}
	return []ResinFigure{f}, nil, nil
}

func (k known) washing() ([]ResinFigure, *ResinMissing, error) {
	return k.treated("Wash as it was done", func(r bench.Run) *float64 { return r.WashS }, k.resin.StatedWashS)
}

func (k known) curing() ([]ResinFigure, *ResinMissing, error) {
	return k.treated("Cure as it was done", func(r bench.Run) *float64 { return r.CureS }, k.resin.StatedCureS)
}

func (k known) treated(what string, took func(bench.Run) *float64, asked *float64) ([]ResinFigure, *ResinMissing, error) {
	var prints []setup.Treated
	for _, s := range k.sheets {
		if v := took(s.Run); v != nil {
			prints = append(prints, setup.Treated{TookS: v, AskedS: asked})
		}
	}
	if len(prints) == 0 {
		return nil, nil, nil
	}
	return []ResinFigure{{What: what, Value: setup.AgainstLabel(prints), N: say.Counted(int64(len(prints)), "print"), Source: "measured"}}, nil, nil
}

// supports is how long taking supports off took, a print, and how hard it was.
func (k known) supports() ([]ResinFigure, *ResinMissing, error) {
	var minutes, efforts []float64
	for _, s := range k.sheets {
		for _, step := range k.steps[s.Run.ID] {
			if step.Kind != "supports" {
				continue
			}
			if took := step.TookS(); took != nil && *took > 0 {
				minutes = append(minutes, *took/60)
			}
			if step.Effort != nil {
				efforts = append(efforts, float64(*step.Effort))
			}
		}
	}
	var out []ResinFigure
	if len(minutes) > 0 {
		out = append(out, ResinFigure{What: "Taking supports off a plate", Value: mean(minutes, "min"), N: say.Counted(int64(len(minutes)), "print"), Conditions: "plates of different fill together", Source: "measured"})
	}
	if len(efforts) > 0 {
		out = append(out, ResinFigure{What: "Effort of taking supports off", Value: say.Figure(stats.Mean(efforts)) + " of 1 to 5", N: say.Counted(int64(len(efforts)), "print"), Conditions: "1 falls off by itself, 5 needs cutters", Source: "judged"})
	}
	return out, nil, nil
}

func (k known) failures() ([]ResinFigure, *ResinMissing, error) {
	var prints []evidence.PrintCount
	for _, s := range k.sheets {
		if n := s.Counts.Judged(); n > 0 {
			prints = append(prints, evidence.PrintCount{Failed: s.Counts.ByResin, Judged: n})
		}
	}
	if len(prints) == 0 {
		return nil, nil, nil
	}
	r, err := evidence.Prints(evidence.PrintsInput{A: prints})
	if err != nil {
		return nil, nil, err
	}
	value := fmt.Sprintf("%s of %s: %s (%s to %s)", say.Whole(float64(r.A.Failed)), say.Whole(float64(r.A.Specimens)), say.Percent(r.A.Rate), say.Percent(r.A.CI[0]), say.Percent(r.A.CI[1]))
	return []ResinFigure{{What: "Failures laid to the resin", Value: value, N: say.Counted(r.A.Prints, "print"), Conditions: "all machines and settings together", Source: "measured"}}, nil, nil
}

func (k known) money() ([]ResinFigure, *ResinMissing, error) {
	if k.price == nil || k.price.PerLitre == nil {
		return nil, &ResinMissing{"Price of a litre", "enter what a bottle costs and holds"}, nil
	}
	return []ResinFigure{{What: "Price of a litre", Value: fmt.Sprintf("%s %.2f", k.currency, *k.price.PerLitre), N: "as entered", Conditions: "with tax and shipping", Source: "computed"}}, nil, nil
}

// age is of the bottles in use: the days since they were opened.
func (k known) age() ([]ResinFigure, *ResinMissing, error) {
	var out []ResinFigure
	for _, b := range k.bottles {
		at := machine.BottleAt(b.OpenedOn, b.ExpiresOn, k.nowMS)
		if at.AgeDays == nil {
			continue
		}
		f := ResinFigure{What: "Age of " + b.Code, Value: say.Counted(int64(*at.AgeDays), "day") + " since it was opened", N: "1 bottle", Source: "computed"}
		if b.Lot != "" {
			f.Conditions = "lot " + b.Lot
		}
		if at.PastDays != nil && *at.PastDays > 0 {
			f.Conditions = "past its expiry date"
		}
		out = append(out, f)
	}
	return out, nil, nil
}

// Weigh keeps a weighing of a resin.
func (w *Tasks) Weigh(ctx context.Context, resinID string, v bench.ResinWeighing) (Card, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Card, error) {
		if _, err := t.Resin(resinID); err != nil {
			return Card{}, err
		}
		if err := v.Check(); err != nil {
			return Card{}, err
		}
		if err := resin.CheckDensity("mass_g", v.DensityGML()); err != nil {
			return Card{}, err
		}
		var err error
		if v.ID, err = w.NewID(); err != nil {
			return Card{}, err
		}
		v.ResinID, v.AtMS, v.TakenBackMS = resinID, w.NowMS(), nil
		if err := t.SaveResinWeighing(v); err != nil {
			return Card{}, err
		}
		return w.cardOf(t, resinID)
	})
}

// TakeBack takes a weighing back; it stays on record.
func (w *Tasks) TakeBack(ctx context.Context, resinID, weighingID string) (Card, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Card, error) {
		all, err := t.ResinWeighings()
		if err != nil {
			return Card{}, err
		}
		i := slices.IndexFunc(all, func(v bench.ResinWeighing) bool { return v.ID == weighingID && v.ResinID == resinID })
		if i < 0 {
			return Card{}, fmt.Errorf("weighing %s: %w", weighingID, bench.ErrNotFound)
		}
		if all[i].TakenBackMS != nil {
			return Card{}, fmt.Errorf("it was taken back already: %w", bench.ErrConflict)
		}
		all[i].TakenBackMS = quantity.Ptr(w.NowMS())
		if err := t.SaveResinWeighing(all[i]); err != nil {
			return Card{}, err
		}
		return w.cardOf(t, resinID)
	})
}
