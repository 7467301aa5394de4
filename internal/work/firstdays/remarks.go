package firstdays

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

// Remarks is what annoys and pleases of a machine: every remark, also those taken back, the last
// first, and what those that hold come to by what they are about, the weightiest first. Abouts are
// what remarks are about on any machine, and what they usually are.
type Remarks struct {
	Remarks []bench.Remark `json:"remarks"`
	Says    []string       `json:"says"`
	Abouts  []string       `json:"abouts"`
	// About is what each of Says is about.
	About []string `json:"about"`
}

// usualAbouts are what living with a machine is mostly about.
var usualAbouts = []string{"lid", "screws and plate", "spout and pouring", "cleaning", "noise", "smell", "heat", "display", "software", "manual and service"}

// RemarksOn reads what annoys and pleases of a machine.
func (w *Tasks) RemarksOn(ctx context.Context, machineID string) (out Remarks, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = RemarksOf(t, machineID)
		return err
	})
	return out, err
}

// RemarksOf is RemarksOn within a transaction.
func RemarksOf(t *store.Tx, machineID string) (Remarks, error) {
	out := Remarks{Remarks: []bench.Remark{}, Says: []string{}, About: []string{}, Abouts: slices.Clone(usualAbouts)}
	if _, err := t.Machine(machineID); err != nil {
		return out, err
	}
	all, err := t.Remarks()
	if err != nil {
		return out, err
	}
	byAbout := map[string][]bench.Remark{}
	for _, r := range all {
		about := strings.ToLower(strings.TrimSpace(r.About))
		if !slices.Contains(out.Abouts, about) {
			out.Abouts = append(out.Abouts, about)
		}
		if r.MachineID != machineID {
			continue
		}
		out.Remarks = append([]bench.Remark{r}, out.Remarks...)
		if r.TakenBackMS == nil {
			byAbout[about] = append(byAbout[about], r)
		}
	}
	abouts := slices.Collect(func(yield func(string) bool) {
		for about := range byAbout {
			if !yield(about) {
				return
			}
		}
	})
	slices.SortFunc(abouts, func(a, b string) int {
		if d := heaviest(byAbout[b]) - heaviest(byAbout[a]); d != 0 {
			return int(d)
		}
		return strings.Compare(a, b)
	})
	for _, about := range abouts {
		out.About = append(out.About, about)
		out.Says = append(out.Says, about+": "+remarked(byAbout[about]))
	}
	return out, nil
}

func heaviest(of []bench.Remark) (most int64) {
	for _, r := range of {
		most = max(most, r.Weight)
	}
	return most
}

// remarked are remarks on one thing in words, annoyances first, each kind the weightiest first.
func remarked(of []bench.Remark) string {
	slices.SortStableFunc(of, func(a, b bench.Remark) int {
		if a.Kind != b.Kind {
			return strings.Compare(a.Kind, b.Kind)
		}
		return int(b.Weight - a.Weight)
	})
	words := make([]string, len(of))
	for i, r := range of {
		words[i] = fmt.Sprintf("%s, %s, weight %d of 5 (%s", map[string]string{"annoyance": "annoys", "pleasure": "pleases"}[r.Kind], say.Words(r.Often), r.Weight, strings.TrimSuffix(r.What, "."))
		if r.ForWhom != "" {
			words[i] += "; for " + r.ForWhom
		}
		if r.Rater != "" {
			words[i] += "; says " + r.Rater
		}
		words[i] += ", " + say.Day(r.AtMS) + ")"
	}
	return strings.Join(words, "; ")
}

// Remark keeps what annoys or pleases of a machine.
func (w *Tasks) Remark(ctx context.Context, machineID string, r bench.Remark) (Remarks, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Remarks, error) {
		if _, err := t.Machine(machineID); err != nil {
			return Remarks{}, err
		}
		var err error
		if r.ID, err = w.NewID(); err != nil {
			return Remarks{}, err
		}
		r.MachineID, r.AtMS, r.TakenBackMS, r.TakenBackWhy = machineID, w.NowMS(), nil, ""
		if err := r.Check(); err != nil {
			return Remarks{}, err
		}
		if err := t.SaveRemark(r); err != nil {
			return Remarks{}, err
		}
		return RemarksOf(t, machineID)
	})
}

// TakeRemarkBack takes a remark back that does not hold any more, with its reason.
func (w *Tasks) TakeRemarkBack(ctx context.Context, machineID, id, why string) (Remarks, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Remarks, error) {
		of, err := t.RemarksOfMachine(machineID)
		if err != nil {
			return Remarks{}, err
		}
		i := slices.IndexFunc(of, func(r bench.Remark) bool { return r.ID == id })
		if i < 0 {
			return Remarks{}, fmt.Errorf("remark %s: %w", id, bench.ErrNotFound)
		}
		r := of[i]
		if r.TakenBackMS != nil {
			return Remarks{}, fmt.Errorf("this remark was taken back before: %w", bench.ErrConflict)
		}
		before := r
		r.TakenBackMS, r.TakenBackWhy = quantity.Ptr(w.NowMS()), why
		if err := t.SaveRemark(r); err != nil {
			return Remarks{}, err
		}
		if err := w.Note(t, "remark", r.ID, "take a remark back", why, before, r); err != nil {
			return Remarks{}, err
		}
		return RemarksOf(t, machineID)
	})
}
