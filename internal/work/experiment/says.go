package experiment

import (
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/say"
)

// say puts into words how the plan was drawn, what it costs and what it can show.
func (w *Tasks) say(p *planner, out *PlanDraft) error {
	if possible := slices.ContainsFunc(out.Combinations, func(c Combination) bool { return c.Trouble == "" }); !possible {
		out.Says, out.Tells = append(out.Says, "No combination can be planned yet: what stands in the way is said beside each."), []string{}
		return nil
	}
	if len(out.Prints) == 0 && len(p.request.Without) > 0 {
		out.Says = append(out.Says, "Nothing is left to print: the other combinations have their prints, on record or planned, or cannot be planned.")
		return nil
	}
	if len(out.Prints) == 0 {
		out.Says = append(out.Says, "Nothing is missing: every combination that can be planned has its prints, on record or planned.")
		return nil
	}
	settings, err := p.t.Settings()
	if err != nil {
		return err
	}
	order := "on each machine all combinations once a round, every second round backwards, so that what drifts with time falls on all alike."
	if p.uneven() {
		order = "on each machine in rounds, every second one backwards; combinations that lack fewer prints stand in the middle rounds, so that time goes with none."
	}
	out.Says = append(out.Says, fmt.Sprintf("The order was drawn with the seed %d: %s", out.Seed, order))
	p.sayResins(out, settings)
	places := "Every second plate of a combination lies turned by half, so that places on the plate go with none."
	if len(out.Machines) > 1 {
		places = "Every second plate of a combination lies turned by half, the machines in opposite turns and on the part of the plate that all have, so that places go with none."
	}
	out.Says = append(out.Says, places)
	p.sayFirst(out)
	return p.sayNeeded(out)
}

// uneven reports combinations that lack more prints than others.
func (p *planner) uneven() bool {
	return slices.ContainsFunc(p.sides, func(s onPlate) bool { return s.prints != p.sides[0].prints })
}

func (p *planner) sayResins(out *PlanDraft, settings bench.Settings) {
	least := p.drawn.LeastVatChanges
	switch {
	case out.VatChanges == 0:
	case out.VatChanges == least:
		out.Says = append(out.Says, fmt.Sprintf("The resin is changed %s, about %s in all.", times(out.VatChanges), say.Duration(60*settings.VatChangeMin*float64(out.VatChanges))))
	default:
		out.Says = append(out.Says, fmt.Sprintf("The resin is changed %s, about %s in all: what is printed twice or more comes in two visits, the second in the opposite order. Each resin in one go would take %s, but then time would go with it.",
			times(out.VatChanges), say.Duration(60*settings.VatChangeMin*float64(out.VatChanges)), times(least)))
	}
}

func times(n int64) string {
	switch n {
	case 1:
		return "once"
	case 2:
		return "twice"
	}
	return say.Whole(float64(n)) + " times"
}

// sayFirst names what the order could not keep apart from time.
func (p *planner) sayFirst(out *PlanDraft) {
	for _, pair := range p.drawn.FirstOnly {
		a, b := p.tellsApart(out.Combinations[p.sides[pair[0]].combination]), p.tellsApart(out.Combinations[p.sides[pair[1]].combination])
		if a != b {
			out.Says = append(out.Says, fmt.Sprintf("All new prints of %s come before those of %s: time goes with them.", a, b))
		}
	}
}

// sayNeeded says what so many prints of each combination can show, and how many a
// difference takes that matters.
func (p *planner) sayNeeded(out *PlanDraft) error {
	var record []evidence.PrintCount
	for _, print := range p.matrix.prints {
		for _, tally := range bench.TallyOf(print.sheet.Specimens) {
			if judged := tally.Counts.Judged(); judged > 0 && !print.planned {
				record = append(record, evidence.PrintCount{Failed: tally.Failed, Judged: judged})
			}
		}
	}
	needed, err := evidence.PrintsToPlan(record, p.request.Copies, evidence.UsualMatters)
	if err != nil {
		return err
	}
	sides := 0
	for _, c := range out.Combinations {
		if c.Trouble == "" {
			sides++
		}
	}
	if pairs := sides - 1; pairs > 0 {
		between := fmt.Sprintf("with one combination against %s", say.Counted(int64(pairs), "other", "others"))
		if d := p.review.Deciding.Stands(); d != nil && d.Of != nil && d.Measure == "failures" {
			pairs, between = 1, "between the two that are declared to decide" // their p is adjusted for no other
		}
		fewest := contest.FewestPrints(pairs)
		words := fmt.Sprintf("%s of each can show a difference in failures %s", say.Counted(p.request.Prints, "print"), between)
		if p.request.Prints < fewest {
			words = fmt.Sprintf("%s of each can show no difference in failures, whatever comes out: %s it takes %s of each", say.Counted(p.request.Prints, "print"), between, say.Counted(fewest, "print"))
		}
		if needed != nil {
			words += fmt.Sprintf("; %s failures more in 100 are likely to be seen with about %s of each", say.Figure(100*evidence.UsualMatters), say.Counted(max(*needed, fewest), "print"))
		}
		out.Says = append(out.Says, words+".")
	}
	return nil
}
