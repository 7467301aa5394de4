package benchview

import (
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
)

// plannedSteps names the next print of each review's plan on each machine that stands
// ready: its turn was drawn, so it is not chosen.
func (b *Bench) plannedSteps(t *store.Tx) error {
	busy := map[string]bool{}
	open, err := t.OpenRuns()
	if err != nil {
		return err
	}
	for _, r := range open {
		busy[r.MachineID] = true
	}
	plates, err := t.UnprintedPlates()
	if err != nil {
		return err
	}
	reviews := map[string]bench.Review{}
	plans, err := t.ReviewPlans()
	if err != nil {
		return err
	}
	for _, p := range plans {
		if reviews[p.ID], err = t.Review(p.ReviewID); err != nil {
			return err
		}
	}
	left := map[string]int64{}
	for _, p := range plates {
		left[quantity.Or(p.ReviewPlanID, "")]++
	}
	for _, p := range plates {
		if p.ReviewPlanID == nil || busy[p.MachineID] {
			continue
		}
		busy[p.MachineID] = true // its first is the one whose turn it is
		review := reviews[*p.ReviewPlanID]
		b.step(fmt.Sprintf("Print %s on %s", p.Code, b.machine(p.MachineID)),
			fmt.Sprintf("%s: it is its turn in the plan of %s, %s left.", p.Name, review.Code, say.Counted(left[*p.ReviewPlanID], "print")), "/plan/"+p.ID)
	}
	return nil
}
