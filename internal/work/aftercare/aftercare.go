package aftercare

import (
	"context"
	"errors"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/resin"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
	"ojime/internal/work/upkeep"
)

// Aftermath is what is done to a print after it: each kind of step in its order,
// and the baths to wash in.
type Aftermath struct {
	NowMS int64             `json:"now_ms"`
	Steps []AfterStep       `json:"steps"`
	Baths []upkeep.BathCard `json:"baths"`
}

// AfterStep is one kind of step: how long it should take and by whom, what was
// done, and what follows from both. Running is the one whose timer runs.
type AfterStep struct {
	Kind     string              `json:"kind"`
	Title    string              `json:"title"`
	PlannedS *float64            `json:"planned_s"`
	From     string              `json:"from"`
	Done     []bench.ProcessStep `json:"done"`
	Running  *bench.ProcessStep  `json:"running"`
	TookS    *float64            `json:"took_s"`
	Verdict  string              `json:"verdict" enum:"as_stated,short,over,unknown"`
	Says     string              `json:"says"`
}

// After reads what is done to a print after it.
func (w *Tasks) After(ctx context.Context, runID string) (out Aftermath, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = w.after(t, runID)
		return err
	})
	return out, err
}

func (w *Tasks) after(t *store.Tx, runID string) (Aftermath, error) {
	r, err := t.Run(runID)
	if err != nil {
		return Aftermath{}, err
	}
	label, err := t.Resin(r.ResinID)
	if err != nil {
		return Aftermath{}, err
	}
	steps, err := t.StepsOfRun(runID)
	if err != nil {
		return Aftermath{}, err
	}
	out := Aftermath{NowMS: w.NowMS()}
	for _, s := range []AfterStep{
		{Kind: "drip", Title: "Drip", PlannedS: quantity.Ptr(float64(planning.UsualDripS)), From: "usual"},
		{Kind: "wash", Title: "Wash", PlannedS: label.StatedWashS, From: "stated for " + label.Name},
		{Kind: "dry", Title: "Dry", PlannedS: quantity.Ptr(float64(planning.UsualDryS)), From: "usual"},
		{Kind: "supports", Title: "Take supports off", From: "no time stated"},
		{Kind: "cure", Title: "Cure", PlannedS: label.StatedCureS, From: "stated for " + label.Name},
	} {
		if s.PlannedS == nil || *s.PlannedS <= 0 {
			s.PlannedS, s.From = nil, "no time stated"
		}
		if err := s.read(steps); err != nil {
			return out, err
		}
		out.Steps = append(out.Steps, s)
	}
	out.Baths, err = w.Upkeep.ReadBaths(t)
	return out, err
}

// read gathers what was done of this kind and holds it against the label.
func (a *AfterStep) read(steps []bench.ProcessStep) error {
	a.Done, a.Verdict = []bench.ProcessStep{}, "unknown"
	var took float64
	for _, s := range steps {
		if s.Kind != a.Kind {
			continue
		}
		if s.EndedMS == nil {
			a.Running = &s
			continue
		}
		a.Done = append(a.Done, s)
		took += *s.TookS()
	}
	if len(a.Done) == 0 {
		return nil
	}
	a.TookS = &took
	if a.Kind != "wash" && a.Kind != "cure" {
		return nil
	}
	t, err := resin.Treatment(resin.TreatmentInput{TookS: took, StatedS: a.PlannedS})
	if err != nil {
		return err
	}
	a.Verdict, a.Says = t.Verdict, treated(a.Kind, t)
	return nil
}

func treated(kind string, t resin.TreatmentResult) string {
	switch kind + " " + t.Verdict {
	case "cure over":
		return fmt.Sprintf("Over-cured: %s times the stated time. Tough and flexible resins turn brittle and yellow.", say.Figures(*t.Ratio, 2))
	case "cure short":
		return fmt.Sprintf("Cured for %s of the stated time: the surface may stay soft and go on shrinking.", say.Figures(*t.Ratio, 2))
	case "wash over":
		return fmt.Sprintf("Washed %s times the stated time: solvent swells thin parts and dulls the surface.", say.Figures(*t.Ratio, 2))
	case "wash short":
		return fmt.Sprintf("Washed for %s of the stated time: resin may stay in fine recesses and round them.", say.Figures(*t.Ratio, 2))
	case "cure unknown", "wash unknown":
		return "The resin's label states no time, so too long or too short cannot be told."
	}
	return ""
}

// SaveStep begins a step of a run, or ends or amends it where it has an id. The
// run's seconds of wash and cure follow from its ended steps.
func (w *Tasks) SaveStep(ctx context.Context, runID string, s bench.ProcessStep) (out Aftermath, err error) {
	s.RunID = runID
	if s.StartedMS == 0 {
		s.StartedMS = w.NowMS()
	}
	if err := errors.Join(s.Check(), bench.HasBeen("started_ms", s.StartedMS, w.NowMS()), bench.HasBeen("ended_ms", quantity.Or(s.EndedMS, 0), w.NowMS())); err != nil {
		return out, err
	}
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		if s.ID == "" {
			if s.ID, err = w.NewID(); err != nil {
				return err
			}
		} else if old, err := t.Step(s.ID); err != nil {
			return err
		} else if old.RunID != runID || old.Kind != s.Kind {
			return quantity.Errorf("id", "is a %s of another print; reload and try again", old.Kind)
		}
		if err := t.SaveStep(s); err != nil {
			return err
		}
		if err := treatRun(t, runID); err != nil {
			return err
		}
		out, err = w.after(t, runID)
		return err
	})
	return out, err
}

// treatRun takes the seconds of wash and cure over from the ended steps.
func treatRun(t *store.Tx, runID string) error {
	r, err := t.Run(runID)
	if err != nil {
		return err
	}
	steps, err := t.StepsOfRun(runID)
	if err != nil {
		return err
	}
	total := map[string]*float64{}
	for _, s := range steps {
		if took := s.TookS(); took != nil {
			total[s.Kind] = quantity.Ptr(quantity.Or(total[s.Kind], 0) + *took)
		}
	}
	if total["wash"] == nil && total["cure"] == nil {
		return nil
	}
	if total["wash"] != nil {
		r.WashS = total["wash"]
	}
	if total["cure"] != nil {
		r.CureS = total["cure"]
	}
	r.Version++
	return printing.PutRun(t, r)
}

// Swap notes that two specimens may have been swapped, or, with an empty second
// code, that it was put right. Both are marked.
func (w *Tasks) Swap(ctx context.Context, code, with string) (out printing.RunSheet, err error) {
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		a, err := t.SpecimenByCode(code)
		if err != nil {
			return err
		}
		if with == code {
			return quantity.Errorf("with", "is the same specimen; name the other one")
		}
		if a.SwappedWith != "" {
			if err := mark(t, a.SwappedWith, ""); err != nil {
				return err
			}
		}
		if with != "" {
			b, err := t.SpecimenByCode(with)
			if task.IsMissing(err) {
				return quantity.Errorf("with", "%q is no specimen on record; type the code on its label", with)
			}
			if err != nil {
				return err
			}
			if b.SwappedWith != "" && b.SwappedWith != code {
				return quantity.Errorf("with", "%s is already in doubt with %s; put that right first", with, b.SwappedWith)
			}
			if err := mark(t, with, code); err != nil {
				return err
			}
		}
		if err := mark(t, code, with); err != nil {
			return err
		}
		out, err = printing.ReadRunSheet(t, a.RunID)
		return err
	})
	return out, err
}

func mark(t *store.Tx, code, with string) error {
	s, err := t.SpecimenByCode(code)
	if err != nil {
		return err
	}
	s.SwappedWith = with
	s.Version++
	return t.SaveSpecimen(s)
}
