package compare

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/cost"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/core/timing"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// loadedSide is the runs of one side with what they refer to. All are of one
// machine; piece, resin and profile may vary, which the audit then says.
type loadedSide struct {
	runs     []bench.Run
	machine  bench.Machine
	resins   []bench.Resin
	profiles []bench.Profile
	pieces   []bench.Piece
	bottles  []*bench.Bottle
	measured printing.Measured
}

func loadSide(t *store.Tx, runIDs []string) (s loadedSide, err error) {
	pieces, lookup := map[string]bool{}, kit.NewLookup(t)
	for _, id := range runIDs {
		sheet, err := printing.ReadPlainSheet(t, lookup, id)
		if err != nil {
			return s, err
		}
		if s.machine.ID != "" && s.machine.ID != sheet.Machine.ID {
			return s, fmt.Errorf("a side holds runs of %s and %s; choose runs of one machine: %w", s.machine.Name, sheet.Machine.Name, bench.ErrConflict)
		}
		s.machine = sheet.Machine
		s.runs = append(s.runs, sheet.Run)
		s.resins = append(s.resins, sheet.Resin)
		s.profiles = append(s.profiles, sheet.Profile)
		s.pieces = append(s.pieces, sheet.Pieces...)
		var bottle *bench.Bottle
		if sheet.Run.BottleID != nil {
			b, err := t.Bottle(*sheet.Run.BottleID)
			if err != nil {
				return s, err
			}
			bottle = &b
		}
		s.bottles = append(s.bottles, bottle)
		for _, f := range sheet.Features {
			if !pieces[f.PieceID] {
				s.measured.Features = append(s.measured.Features, f)
			}
		}
		for _, p := range sheet.Pieces {
			pieces[p.ID] = true
		}
		s.measured.Specimens = append(s.measured.Specimens, sheet.Specimens...)
		s.measured.Readings = append(s.measured.Readings, sheet.Readings...)
	}
	s.measured.Instruments, err = t.Instruments()
	return s, err
}

func (s loadedSide) figures(settings bench.Settings) (Side, error) {
	out := Side{
		MachineID: s.machine.ID, PieceID: s.pieces[0].ID, Difficulty: oneOf(s.pieces, kit.DifficultyWords),
		Machine: s.machine.Name, Resin: oneOf(s.resins, func(r bench.Resin) string { return r.Name }),
		Profile:  oneOf(s.profiles, func(p bench.Profile) string { return p.Code }),
		Basis:    oneOf(s.profiles, func(p bench.Profile) string { return p.Basis }),
		Piece:    oneOf(s.pieces, func(p bench.Piece) string { return p.Name }),
		SetAside: []string{},
	}
	out.Label = fmt.Sprintf("%s with %s, %s", out.Machine, out.Resin, out.Profile)
	for _, r := range s.runs {
		out.Runs = append(out.Runs, r.Code)
	}
	s.times(&out)
	if err := s.bias(&out); err != nil {
		return out, err
	}
	if err := s.outcomes(&out); err != nil {
		return out, err
	}
	out.Conditions = s.conditions(out.Outcomes.Judged)
	var err error
	if out.Dimensions, err = s.measured.Dimensions(); err != nil {
		return out, err
	}
	if out.Ladders, err = s.measured.Ladders(s.machine); err != nil {
		return out, err
	}
	out.values = s.specimenMeans()
	out.Cost, out.CostReason, err = s.cost(out.Outcomes, settings)
	return out, err
}

func (s loadedSide) times(out *Side) {
	var ours, software []*float64
	var actual float64
	var copies int64
	for _, r := range s.runs {
		out.Copies += r.Copies
		ours, software = append(ours, r.OurEstimateS), append(software, r.SoftwareEstimateS)
		if took := r.TookS(); took != nil {
			out.actual = append(out.actual, *took)
			actual += *took
			copies += r.Copies
		}
	}
	out.OurS, out.SoftwareS = meanKnown(ours), meanKnown(software)
	if out.ActualN = int64(len(out.actual)); out.ActualN > 0 {
		out.ActualS = quantity.Ptr(actual / float64(out.ActualN))
		out.PerPieceS = quantity.Ptr(actual / float64(copies))
	}
}

func (s loadedSide) bias(out *Side) error {
	var in timing.BiasInput
	for _, r := range s.runs {
		if took := r.TookS(); r.SoftwareEstimateS != nil && took != nil {
			in.Pairs = append(in.Pairs, timing.BiasPair{EstimateS: *r.SoftwareEstimateS, ActualS: *took})
		}
	}
	if len(in.Pairs) == 0 {
		return nil
	}
	bias, err := timing.Bias(in)
	out.Bias = &bias
	return err
}

func (s loadedSide) outcomes(out *Side) (err error) {
	o := &out.Outcomes
	for _, p := range s.measured.Specimens {
		switch {
		case !p.Judged():
			o.Pending++
			continue
		case p.Good():
			o.Whole++
		case p.Outcome == "micro_defect":
			o.MicroDefect++
		default:
			o.Lost++
			out.SetAside = append(out.SetAside, p.Code)
		}
		o.Judged++
		if p.Failed() {
			o.Failed++
			if p.Fault == "machine" {
				o.ByMachine++
			}
		}
	}
	if out.AllFailures, err = evidence.Rate(evidence.Count{Events: o.Failed, Trials: o.Judged}); err != nil {
		return err
	}
	if out.Laid, err = evidence.Rate(evidence.Count{Events: o.ByMachine, Trials: o.Judged}); err != nil {
		return err
	}
	out.MicroDefect, err = evidence.Rate(evidence.Count{Events: o.MicroDefect, Trials: o.Judged})
	return err
}

// specimenMeans are a size's means by specimen: readings repeated on one
// specimen are not further evidence on the set-up.
func (s loadedSide) specimenMeans() map[string][]float64 {
	type key struct{ feature, specimen string }
	values := map[key][]*float64{}
	for _, r := range s.measured.Readings {
		k := key{r.FeatureID, r.SpecimenID}
		values[k] = append(values[k], r.ValueMM)
	}
	out := map[string][]float64{}
	counts := s.measured.Counts()
	for _, f := range s.measured.Features {
		for _, p := range s.measured.Specimens {
			if mean := meanKnown(values[key{f.ID, p.ID}]); mean != nil && counts[p.ID] {
				out[f.Name] = append(out[f.Name], *mean)
			}
		}
	}
	return out
}

// conditions are those that the audit weighs: the mean of a number that is
// known for every run, a word that is the same for every run (else all of
// them), a flag that is set on any run.
func (s loadedSide) conditions(judged int64) audit.Conditions {
	c := audit.Conditions{
		Process:         quantity.Ptr(s.machine.Process()),
		LayerUM:         meanAll(s.profiles, func(p bench.Profile) *float64 { return &p.LayerUM }),
		ScalePct:        meanAll(s.runs, func(r bench.Run) *float64 { return r.ScalePct }),
		Piece:           oneOf(s.pieces, func(p bench.Piece) string { return p.Name }),
		PieceRevision:   oneOf(s.pieces, func(p bench.Piece) string { return fmt.Sprintf("%s (mesh %.8s)", p.Revision, p.MeshSHA256) }),
		Resin:           oneOf(s.resins, func(r bench.Resin) string { return r.Name }),
		FilmLayers:      meanAll(s.runs, func(r bench.Run) *float64 { return r.FilmLayers }),
		FilmClouded:     anyTrue(s.runs, func(r bench.Run) *bool { return r.FilmClouded }),
		DaysSinceLevel:  meanAll(s.runs, func(r bench.Run) *float64 { return r.DaysSinceLevel }),
		MovedSinceLevel: anyTrue(s.runs, func(r bench.Run) *bool { return r.MovedSinceLevel }),
		ResinTempC:      meanAll(s.runs, func(r bench.Run) *float64 { return r.ResinTempC }),
		Orientation:     word(s.runs, func(r bench.Run) *string { return r.Orientation }),
		Supports:        word(s.runs, func(r bench.Run) *string { return r.Supports }),
		Antialiasing:    oneOf(s.profiles, func(p bench.Profile) string { return p.Antialiasing }),
		WashS:           meanAll(s.runs, func(r bench.Run) *float64 { return r.WashS }),
		CureS:           meanAll(s.runs, func(r bench.Run) *float64 { return r.CureS }),
		Software:        word(s.runs, func(r bench.Run) *string { return r.Software }),
	}
	if basis := oneOf(s.profiles, func(p bench.Profile) string { return p.Basis }); !strings.Contains(basis, mixed) {
		c.ExposureBasis = &basis
	}
	if surface, ok := word(s.runs, func(r bench.Run) *string { return r.Surface }).(string); ok && !strings.Contains(surface, mixed) {
		c.Surface = &surface
	}
	if copies := meanAll(s.runs, func(r bench.Run) *float64 { return quantity.Ptr(float64(r.Copies)) }); copies != nil {
		c.Copies = quantity.Ptr(int64(math.Round(*copies)))
	}
	if judged > 0 {
		c.Specimens = &judged
	}
	s.bottleAge(&c)
	return c
}

func (s loadedSide) bottleAge(c *audit.Conditions) {
	var ages []*float64
	for i, b := range s.bottles {
		if b == nil {
			ages = append(ages, nil)
			continue
		}
		ages = append(ages, task.Days(b.OpenedOn, s.runs[i].StartedMS))
		if left := task.Days(b.ExpiresOn, s.runs[i].StartedMS); left != nil && *left > 0 {
			c.BottleExpired = quantity.Ptr(true)
		}
	}
	c.BottleAgeDays = meanAll(ages, func(v *float64) *float64 { return v })
}

// cost adds up all plates of a side, so that plates of different fill weigh as
// they were printed; nil with a reason where a figure is not on record.
func (s loadedSide) cost(o Outcomes, settings bench.Settings) (*cost.PieceResult, string, error) {
	in := cost.PieceInput{
		WastePct: &settings.WastePct, PowerW: s.machine.PowerW, EnergyPerKWh: settings.EnergyPerKWh, LabourPerH: settings.LabourPerH,
		Success: cost.Success{Good: o.Whole, Tried: o.Judged},
	}
	var resinMoney float64
	for i, r := range s.runs {
		card, err := kit.CardOfResin(s.resins[i])
		switch {
		case err != nil:
			return nil, fmt.Sprintf("The price of %s cannot be worked out: %v.", s.resins[i].Name, err), nil
		case r.TookS() == nil:
			return nil, fmt.Sprintf("How long %s took is not known: %s.", r.Code, r.Took().Reason), nil
		case r.ResinUsedG == nil:
			return nil, fmt.Sprintf("The resin used by %s is not known; weigh the bottle before and after.", r.Code), nil
		case s.resins[i].DensityGML == nil:
			return nil, fmt.Sprintf("The density of %s is not known, so its grams have no litres.", s.resins[i].Name), nil
		}
		ml := *r.ResinUsedG / *s.resins[i].DensityGML
		in.ResinML += ml
		resinMoney += ml / 1000 * *card.Price.PerLitre
		in.Print.TotalS += *r.TookS()
		in.Print.LightOnS += quantity.Or(r.LightOnS, 0)
		in.Print.Layers += r.Layers
		in.Copies += r.Copies
		in.AttendedMin += quantity.Or(r.AttendedMin, 0)
	}
	in.ResinPerLitre = 1000 * resinMoney / in.ResinML
	in.Consumables = kit.Consumables(s.machine)
	out, err := cost.Piece(in)
	return &out, "", err
}

// mixed stands between words that differ within a side.
const mixed = " / "

// oneOf is the word common to all, or all different ones.
func oneOf[E any](list []E, of func(E) string) string {
	var words []string
	for _, e := range list {
		if w := of(e); !slices.Contains(words, w) {
			words = append(words, w)
		}
	}
	return strings.Join(words, mixed)
}

// word is oneOf for words that may be not known, which makes all not known.
func word(runs []bench.Run, of func(bench.Run) *string) any {
	for _, r := range runs {
		if of(r) == nil {
			return nil
		}
	}
	return oneOf(runs, func(r bench.Run) string { return *of(r) })
}

// meanAll is the mean of a number that is known for every element, else nil.
func meanAll[E any](list []E, of func(E) *float64) *float64 {
	var sum float64
	for _, e := range list {
		v := of(e)
		if v == nil {
			return nil
		}
		sum += *v
	}
	return quantity.Ptr(sum / float64(len(list)))
}

// meanKnown is the mean of what is known, nil where nothing is.
func meanKnown(list []*float64) *float64 {
	known := slices.DeleteFunc(list, func(v *float64) bool { return v == nil })
	if len(known) == 0 {
		return nil
	}
	return meanAll(known, func(v *float64) *float64 { return v })
}

func anyTrue(runs []bench.Run, of func(bench.Run) *bool) *bool {
	for _, r := range runs {
		if v := of(r); v != nil && *v {
			return v
		}
	}
	return nil
}
