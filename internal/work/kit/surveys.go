package kit

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// PlateSurveys are the surveys of a machine's plate with what they leave of it.
type PlateSurveys struct {
	Usable  bench.Usable        `json:"usable"`
	Surveys []bench.PlateSurvey `json:"surveys"`
}

// UsableOf is what may be used of a machine's plate now.
func UsableOf(t *store.Tx, m bench.Machine) (bench.Usable, error) {
	surveys, err := t.PlateSurveysOfMachine(m.ID)
	if err != nil || len(surveys) == 0 {
		return usable(m, surveys, nil), err
	}
	events, err := t.EventsOfMachine(m.ID)
	return usable(m, surveys, events), err
}

// usable is what surveys leave of a plate, in words too.
func usable(m bench.Machine, surveys []bench.PlateSurvey, events []bench.MachineEvent) bench.Usable {
	var panelMS int64
	for _, e := range events {
		if e.RetiredMS == nil && slices.ContainsFunc(bench.PanelKinds, func(kind string) bool { return slices.Contains(e.Kinds, kind) }) {
			panelMS = max(panelMS, e.AtMS)
		}
	}
	out := bench.UsableOf(m, surveys, panelMS)
	size := fmt.Sprintf("%s × %s × %s mm", say.Figures(out.WidthMM, 5), say.Figures(out.DepthMM, 5), say.Figures(out.HeightMM, 5))
	if out.Verified == nil {
		out.Says = size + " as claimed; nobody looked at what is really usable."
		return out
	}
	out.Says = fmt.Sprintf("%s are usable, looked at on %s", size, say.Day(out.Verified.AtMS))
	if n := int64(len(out.Spots)); n > 0 {
		out.Says += "; " + say.Counted(n, "spot is", "spots are") + " kept free"
	}
	if len(out.Spots) < len(out.Verified.Spots) {
		out.Says += "; another panel was put in since, and its spots are not known"
	}
	out.Says += "."
	return out
}

// SurveysOf are the surveys of a machine's plate, also those taken back.
func SurveysOf(t *store.Tx, machineID string) (PlateSurveys, error) {
	out := PlateSurveys{Surveys: []bench.PlateSurvey{}}
	m, err := t.Machine(machineID)
	if err != nil {
		return out, err
	}
	if out.Usable, err = UsableOf(t, m); err != nil {
		return out, err
	}
	surveys, err := t.PlateSurveysOfMachine(machineID)
	out.Surveys = append(out.Surveys, surveys...)
	return out, err
}

// PlateSurveys reads the surveys of a machine's plate.
func (w *Tasks) PlateSurveys(ctx context.Context, machineID string) (out PlateSurveys, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = SurveysOf(t, machineID)
		return err
	})
	return out, err
}

// SurveyPlate appends what was found usable of a machine's plate, now or on the day that it says.
func (w *Tasks) SurveyPlate(ctx context.Context, machineID string, s bench.PlateSurvey) (PlateSurveys, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PlateSurveys, error) {
		m, err := t.Machine(machineID)
		if err != nil {
			return PlateSurveys{}, err
		}
		if err := s.Check(m); err != nil {
			return PlateSurveys{}, err
		}
		if s.AtMS == 0 {
			s.AtMS = w.NowMS()
		}
		if err := bench.HasBeen("at_ms", s.AtMS, w.NowMS()); err != nil {
			return PlateSurveys{}, err
		}
		if s.ID, err = w.NewID(); err != nil {
			return PlateSurveys{}, err
		}
		s.MachineID, s.TakenBackMS, s.TakenBackWhy = machineID, nil, ""
		if s.Spots == nil {
			s.Spots = bench.Spots{}
		}
		if err := t.SavePlateSurvey(s); err != nil {
			return PlateSurveys{}, err
		}
		return SurveysOf(t, machineID)
	})
}

// TakeSurveyBack takes a survey back with the reason; the one before it counts again.
func (w *Tasks) TakeSurveyBack(ctx context.Context, machineID, surveyID, why string) (PlateSurveys, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PlateSurveys, error) {
		if strings.TrimSpace(why) == "" {
			return PlateSurveys{}, quantity.Errorf("why", "is missing; say why it is taken back")
		}
		known, err := SurveysOf(t, machineID)
		if err != nil {
			return known, err
		}
		i := slices.IndexFunc(known.Surveys, func(s bench.PlateSurvey) bool { return s.ID == surveyID && s.TakenBackMS == nil })
		if i < 0 {
			return known, fmt.Errorf("survey %s of this machine: %w", surveyID, bench.ErrNotFound)
		}
		s := known.Surveys[i]
		s.TakenBackMS, s.TakenBackWhy = quantity.Ptr(w.NowMS()), why
		if err := t.SavePlateSurvey(s); err != nil {
			return known, err
		}
		return SurveysOf(t, machineID)
	})
}
