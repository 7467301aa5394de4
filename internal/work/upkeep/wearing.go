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
	"ojime/internal/core/machine"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
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

// dealSeed fixes how failures are dealt anew, so that a page shows the same p
// twice.
const dealSeed = 1

type failuresKey struct{ machineID string }

// MachineFailures asks where and when prints of a machine fail.
func (w *Tasks) MachineFailures(ctx context.Context, machineID string) (MachineFailures, error) {
	return task.Recall(&w.Memory, w.Store.Changes(), failuresKey{machineID}, func() (out MachineFailures, err error) {
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
	history, err := kit.HistoryOf(t, machineID)
	if err != nil {
		return out, err
	}
	prints := make([]machine.Print, len(runs))
	for i, r := range runs {
		prints[i] = machine.Print{StartMS: r.StartedMS, Layers: r.WornLayers, LightS: r.WornLightS}
	}
	for _, of := range []struct {
		kind, unit string
		ages       []machine.Age
	}{{"film", "layers", history.FilmAges(prints)}, {LightName[m.LightEngine], "h of light", history.LightAges(prints)}} {
		wear, err := wearOf(of.kind, of.unit, aged(runs, of.ages))
		if err != nil {
			return out, err
		}
		out.Wear = append(out.Wear, wear)
	}
	return out, nil
}

// place tests where failures lie. Plates that lost nothing tell nothing about
// places, since failures are dealt within a plate; they are counted in words.
func (f *MachineFailures) place(t *store.Tx, m bench.Machine, runs []store.JudgedRun) error {
	spots, err := t.PlacesOfMachine(m.ID)
	if err != nil {
		return err
	}
	in, last := evidence.PlaceInput{Seed: dealSeed}, ""
	for _, s := range spots {
		if s.RunID != last {
			in.Plates, last = append(in.Plates, nil), s.RunID
		}
		share := func(v, of float64) float64 { return math.Max(0, math.Min(1, v/of)) }
		plate := &in.Plates[len(in.Plates)-1]
		*plate = append(*plate, evidence.Spot{X: share(*s.XMM, m.WidthMM), Y: share(*s.YMM, m.DepthMM), Failed: s.Failed})
	}
	failed := 0
	for _, r := range runs {
		failed += int(flag(r.Failed > 0))
	}
	f.Unplaced = fmt.Sprintf("%d judged prints lost nothing and say nothing about places.", len(runs)-failed)
	if n := failed - len(in.Plates); n > 0 {
		f.Unplaced += fmt.Sprintf(" %d that lost something were not laid on a plate here, so where is not known.", n)
	}
	f.Places, err = evidence.PlacePattern(in)
	return err
}

// agedRun is a judged run with the age of its film or light.
type agedRun struct {
	machine.Age
	failed, byMachine bool
}

func aged(runs []store.JudgedRun, ages []machine.Age) []agedRun {
	out := make([]agedRun, len(runs))
	for i, r := range runs {
		out[i] = agedRun{ages[i], r.Failed > 0, r.ByMachine > 0}
	}
	return out
}

// ageBins is in how many equally filled parts ages are shown.
const ageBins = 4

func wearOf(kind, unit string, runs []agedRun) (out WearFailures, err error) {
	out = WearFailures{Of: kind, Unit: unit, Bins: []AgeBin{}}
	known := slices.DeleteFunc(slices.Clone(runs), func(r agedRun) bool { return math.IsNaN(r.Before) })
	out.Unknown = int64(len(runs) - len(known))
	lives := map[int]*evidence.Life{}
	for _, r := range known {
		l := lives[r.Life]
		if l == nil {
			l = &evidence.Life{}
			lives[r.Life] = l
		}
		if l.Event {
			continue
		}
		if l.Event = r.byMachine; l.Event {
			l.Age = r.Before
		} else if !math.IsNaN(r.After) {
			l.Age = math.Max(l.Age, r.After)
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
func (f *WearFailures) bin(known []agedRun) (evidence.TrendResult, error) {
	var doses []evidence.Dose // in the order of time
	for _, r := range known {
		doses = append(doses, evidence.Dose{Level: r.Before, Count: evidence.Count{Events: flag(r.failed), Trials: 1}})
	}
	slices.SortStableFunc(known, func(a, b agedRun) int { return cmp.Compare(a.Before, b.Before) })
	if len(known) >= ageBins*evidence.FewTrials {
		for b := range ageBins {
			part := known[b*len(known)/ageBins : (b+1)*len(known)/ageBins]
			bin := AgeBin{From: part[0].Before, To: part[len(part)-1].Before, Runs: int64(len(part))}
			for _, r := range part {
				bin.Failed += flag(r.failed)
			}
			var err error
			if bin.Rate, err = evidence.Rate(evidence.Count{Events: bin.Failed, Trials: bin.Runs}); err != nil {
				return evidence.TrendResult{}, err
			}
			f.Bins = append(f.Bins, bin)
		}
	}
	return evidence.TrendInTime(doses, dealSeed)
}

func wearSentence(kind string, f WearFailures) string {
	switch {
	case len(f.Bins) == 0:
		return fmt.Sprintf("Too few judged prints on a %s of known age to say whether its age matters.", kind)
	case f.Trend.P == nil:
		return fmt.Sprintf("Prints on this %s do not differ enough in age or outcome to ask for a trend.", kind)
	case f.Trend.Verdict == evidence.NotShown:
		return fmt.Sprintf("That failures go with the age of the %s is not shown (p %s).", kind, chance(*f.Trend.P))
	case *f.Trend.Z > 0:
		return fmt.Sprintf("Failures rise with the age of the %s (p %s). It may be the %s, or what aged beside it.", kind, chance(*f.Trend.P), kind)
	}
	return fmt.Sprintf("Failures fall with the age of the %s (p %s): wear of it is not what fails here.", kind, chance(*f.Trend.P))
}

func flag(b bool) int64 {
	if b {
		return 1
	}
	return 0
}

// chance is a p as it stands in a sentence: = 0.03, or below 0.001.
func chance(p float64) string {
	if words := say.Chance(p); p < 0.001 {
		return words
	} else {
		return "= " + words
	}
}
