package upkeep

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"math"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// WearFailures are failures against the age of film or panel, of one machine.
type WearFailures struct {
	Of       string                  `json:"of"`
	Unit     string                  `json:"unit"`
	Bins     []AgeBin                `json:"bins"`
	Trend    evidence.TrendResult    `json:"trend"`
	Survival evidence.SurvivalResult `json:"survival"`
	Unknown  int64                   `json:"unknown"`
	Sentence string                  `json:"sentence"`
}

// AgeBin is the runs whose film or panel had an age from From to To.
type AgeBin struct {
	From   float64             `json:"from"`
	To     float64             `json:"to"`
	Runs   int64               `json:"runs"`
	Failed int64               `json:"failed"`
	Rate   evidence.RateResult `json:"rate"`
}

// MachineFailures is where and at what age prints of one machine fail.
type MachineFailures struct {
	MachineID string               `json:"machine_id"`
	Machine   string               `json:"machine"`
	WidthMM   float64              `json:"width_mm"`
	DepthMM   float64              `json:"depth_mm"`
	Places    evidence.PlaceResult `json:"places"`
	Unplaced  string               `json:"unplaced"`
	Wear      []WearFailures       `json:"wear"`
}

// placeSeed fixes how failures are dealt anew, so that a page shows the same p
// twice.
const placeSeed = 1

// MachineFailures asks where and when prints of a machine fail.
func (w *Tasks) MachineFailures(ctx context.Context, machineID string) (MachineFailures, error) {
	return task.Recall(&w.Memory, w.Store.Changes(), "failures of "+machineID, func() (out MachineFailures, err error) {
		err = w.Store.Read(ctx, func(t *store.Tx) error {
			out, err = machineFailures(t, machineID)
			return err
		})
		return out, err
	})
}

func machineFailures(t *store.Tx, machineID string) (MachineFailures, error) {
	m, err := t.Machine(machineID)
	if err != nil {
		return MachineFailures{}, err
	}
	out := MachineFailures{MachineID: m.ID, Machine: m.Name, WidthMM: m.WidthMM, DepthMM: m.DepthMM}
	runs, err := t.JudgedOfMachine(machineID)
	if err != nil {
		return out, err
	}
	if err := out.place(t, m, runs); err != nil {
		return out, err
	}
	events, err := t.EventsOfMachine(machineID)
	if err != nil {
		return out, err
	}
	film, err := wearOf("film", "layers", ages(runs, events, "film", func(r store.JudgedRun) (use float64, start *float64) {
		return float64(r.Layers), r.FilmLayers
	}))
	if err != nil {
		return out, err
	}
	panel, err := wearOf("panel", "h of light", ages(runs, events, "panel", func(r store.JudgedRun) (use float64, start *float64) {
		return quantity.Or(r.LightOnS, math.NaN()) / 3600, nil
	}))
	out.Wear = []WearFailures{film, panel}
	return out, err
}

// place tests where failures lie. Plates that lost nothing tell nothing about
// places, since failures are dealt within a plate; they are counted in words.
func (f *MachineFailures) place(t *store.Tx, m bench.Machine, runs []store.JudgedRun) error {
	spots, err := t.PlacesOfMachine(m.ID)
	if err != nil {
		return err
	}
	in, last := evidence.PlaceInput{Seed: placeSeed}, ""
	for _, s := range spots {
		if s.RunID != last {
			in.Plates, last = append(in.Plates, nil), s.RunID
		}
		share := func(v, of float64) float64 { return math.Max(0, math.Min(1, v/of)) }
		plate := &in.Plates[len(in.Plates)-1]
		*plate = append(*plate, evidence.Spot{X: share(*s.XMM, m.WidthMM), Y: share(*s.YMM, m.DepthMM), Failed: s.Failed == 1})
	}
	failed := 0
	for _, r := range runs {
		failed += int(task.Flag(r.Failed > 0))
	}
	f.Unplaced = fmt.Sprintf("%d judged prints lost nothing and say nothing about places.", len(runs)-failed)
	if n := failed - len(in.Plates); n > 0 {
		f.Unplaced += fmt.Sprintf(" %d that lost something were not laid on a plate here, so where is not known.", n)
	}
	f.Places, err = evidence.Place(in)
	return err
}

// aged is a run with the age of its film or panel before it; NaN where that is
// not known. life counts the films or panels.
type aged struct {
	before, after float64
	life          int
	failed, laid  bool
}

// ages follows the age through the runs, from knot to knot. Before the first knot
// it is taken from the run's own note where there is one, else not known.
func ages(runs []store.JudgedRun, events []bench.MachineEvent, kind string, of func(store.JudgedRun) (float64, *float64)) []aged {
	var out []aged
	age, life := math.NaN(), 0
	next := 0
	knots := []int64{}
	for _, e := range events {
		if e.Kind == kind {
			knots = append(knots, e.AtMS)
		}
	}
	for _, r := range runs {
		for next < len(knots) && knots[next] <= r.StartedMS {
			age, life, next = 0, life+1, next+1
		}
		use, noted := of(r)
		if noted != nil {
			age = *noted
		}
		out = append(out, aged{before: age, after: age + use, life: life, failed: r.Failed > 0, laid: r.Laid > 0})
		age += use
	}
	return out
}

// ageBins is in how many equally filled parts ages are shown.
const ageBins = 4

func wearOf(kind, unit string, runs []aged) (out WearFailures, err error) {
	out = WearFailures{Of: kind, Unit: unit, Bins: []AgeBin{}}
	known := slices.DeleteFunc(slices.Clone(runs), func(r aged) bool { return math.IsNaN(r.before) })
	out.Unknown = int64(len(runs) - len(known))
	lives := map[int]*evidence.Life{}
	for _, r := range known {
		l := lives[r.life]
		if l == nil {
			l = &evidence.Life{}
			lives[r.life] = l
		}
		if l.Event {
			continue
		}
		if l.Event = r.laid; l.Event {
			l.Age = r.before
		} else if !math.IsNaN(r.after) {
			l.Age = math.Max(l.Age, r.after)
		}
	}
	list := []evidence.Life{}
	for _, n := range slices.Sorted(maps.Keys(lives)) {
		list = append(list, *lives[n])
	}
	if out.Survival, err = evidence.Survival(list); err != nil {
		return out, err
	}
	if out.Trend, err = out.bin(known); err != nil {
		return out, err
	}
	out.Sentence = wearSentence(kind, out)
	return out, nil
}

// bin sorts runs by age into parts of equal number and tests their trend.
func (f *WearFailures) bin(known []aged) (evidence.TrendResult, error) {
	slices.SortStableFunc(known, func(a, b aged) int { return cmp.Compare(a.before, b.before) })
	var doses []evidence.Dose
	for _, r := range known {
		doses = append(doses, evidence.Dose{Level: r.before, Count: evidence.Count{Events: task.Flag(r.failed), Trials: 1}})
	}
	if len(known) >= ageBins*task.FewTrials {
		for b := range ageBins {
			part := known[b*len(known)/ageBins : (b+1)*len(known)/ageBins]
			bin := AgeBin{From: part[0].before, To: part[len(part)-1].before, Runs: int64(len(part))}
			for _, r := range part {
				bin.Failed += task.Flag(r.failed)
			}
			var err error
			if bin.Rate, err = evidence.Rate(evidence.Count{Events: bin.Failed, Trials: bin.Runs}); err != nil {
				return evidence.TrendResult{}, err
			}
			f.Bins = append(f.Bins, bin)
		}
	}
	return evidence.Trend(doses)
}

func wearSentence(kind string, f WearFailures) string {
	switch {
	case len(f.Bins) == 0:
		return fmt.Sprintf("Too few judged prints on a %s of known age to say whether its age matters.", kind)
	case f.Trend.P == nil:
		return fmt.Sprintf("Prints on this %s do not differ enough in age or outcome to ask for a trend.", kind)
	case f.Trend.Verdict == evidence.NotShown:
		return fmt.Sprintf("That failures go with the age of the %s is not shown (p = %.2g).", kind, *f.Trend.P)
	case *f.Trend.Z > 0:
		return fmt.Sprintf("Failures rise with the age of the %s (p = %.2g). It may be the %s, or what aged beside it.", kind, *f.Trend.P, kind)
	}
	return fmt.Sprintf("Failures fall with the age of the %s (p = %.2g): wear of it is not what fails here.", kind, *f.Trend.P)
}
