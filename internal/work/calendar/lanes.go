package calendar

import (
	"ojime/internal/bench"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
)

// mostWaiting is how many prints of one machine are laid out: working out the time of each reads
// its meshes, and a plan may hold hundreds.
const mostWaiting = 12

// lanes are the machines on which something prints or waits, in their order.
func (w *Tasks) lanes(t *store.Tx) ([]Lane, error) {
	machines, err := t.Machines()
	if err != nil {
		return nil, err
	}
	plates, err := t.UnprintedPlates()
	if err != nil {
		return nil, err
	}
	open, err := t.OpenRuns()
	if err != nil {
		return nil, err
	}
	pieces, err := t.Pieces()
	if err != nil {
		return nil, err
	}
	names := map[string]string{}
	for _, p := range pieces {
		names[p.ID] = p.Name
	}
	out := []Lane{}
	for _, m := range machines {
		lane := Lane{MachineID: m.ID, Machine: m.Name, Prints: []WaitingPrint{}}
		if err := w.prints(t, &lane, open, names); err != nil {
			return nil, err
		}
		if err := w.plates(t, &lane, plates); err != nil {
			return nil, err
		}
		if lane.Now != nil || len(lane.Prints) > 0 {
			out = append(out, lane)
		}
	}
	return out, nil
}

// prints takes what is on a machine and what is prepared for it, in the order of preparing.
func (w *Tasks) prints(t *store.Tx, lane *Lane, open []bench.Run, names map[string]string) error {
	var err error
	if lane.last, err = lastEnded(t, lane.MachineID, w.NowMS()); err != nil {
		return err
	}
	if lane.last != nil {
		lane.InVat = lane.last.ResinID
	}
	for _, r := range open {
		if r.MachineID != lane.MachineID {
			continue
		}
		live, err := w.printing.ReadLive(t, r.ID)
		if err != nil {
			return err
		}
		label, err := t.Resin(r.ResinID)
		if err != nil {
			return err
		}
		after, err := planning.AfterOf(t, label, r.WashS, r.CureS)
		if err != nil {
			return err
		}
		if live.State == bench.Printing || live.State == bench.Paused {
			lane.InVat, lane.Now = r.ResinID, runningOf(r, live, label, after)
			continue
		}
		tallies, err := t.TalliesOfRun(r.ID)
		if err != nil {
			return err
		}
		lane.Prints = append(lane.Prints, preparedOf(r, live, label, after, printing.PrintedWords(printing.PrintedOf(tallies, names))))
	}
	return nil
}

// lastEnded is the last print of a machine that ended, nil where none of the latest did.
func lastEnded(t *store.Tx, machineID string, nowMS int64) (*bench.Run, error) {
	runs, err := t.RunsBefore(bench.Run{MachineID: machineID, StartedMS: nowMS}, mostWaiting)
	for _, r := range runs {
		if r.EndedMS != nil {
			return &r, err
		}
	}
	return nil, err
}

func runningOf(r bench.Run, live printing.LiveRun, label bench.Resin, after planning.AfterPrint) *RunningPrint {
	out := &RunningPrint{RunID: r.ID, Code: r.Code, State: live.State, Colour: label.Colour, StartedMS: r.StartedMS, after: after, EndsMS: live.EndsMS, EndsPI: live.EndsPI, TopUpMS: live.TopUpMS}
	switch {
	case live.Live == nil:
		out.Reason = "When it ends cannot be foretold: its time is not known."
	case live.State == bench.Paused:
		out.EndsMS = quantity.Ptr(live.NowMS + int64(1000*live.Live.LeftS))
		out.Reason = "It is paused; if it went on now it would end then."
	}
	if live.TotalPI != nil && live.RunningS > live.TotalPI[1] {
		out.Late = true
	}
	return out
}

func preparedOf(r bench.Run, live printing.LiveRun, label bench.Resin, after planning.AfterPrint, name string) WaitingPrint {
	out := WaitingPrint{Code: r.Code, Name: name, Link: "/runs/" + r.ID, State: "prepared", Resin: label.Name, AfterS: after.S, AfterSays: after.Says, resinID: label.ID, Colour: label.Colour, topUpAfterS: live.TopUpAfterS}
	if live.Live == nil {
		out.Reason = unknownTime(live.Reason)
		return out
	}
	out.TakesS, out.TakesPI = quantity.Ptr(live.Live.LeftS), live.TotalPI
	return out
}

func unknownTime(reason string) string {
	if reason == "" {
		return "Its time is not known."
	}
	return "Its time is not known: " + reason
}

// plates takes the plates that nothing printed yet, ordered for the fewest cleanings.
func (w *Tasks) plates(t *store.Tx, lane *Lane, plates []bench.Plate) error {
	var waiting []WaitingPrint
	for _, p := range plates {
		if p.MachineID != lane.MachineID {
			continue
		}
		if len(waiting)+len(lane.Prints) == mostWaiting {
			lane.More++
			continue
		}
		one, err := w.laid(t, p.ID)
		if err != nil {
			return err
		}
		waiting = append(waiting, one)
	}
	inVat := lane.InVat
	for i := range lane.Prints {
		lane.change(&lane.Prints[i], &inVat)
	}
	queue := make([]plan.Queued, len(waiting))
	for i, p := range waiting {
		queue[i] = plan.Queued{Vat: p.resinID, Pale: plan.Paleness(p.Colour), Plan: p.planID}
	}
	order, _ := plan.FewestCleanings(queue, inVat)
	for _, i := range order {
		lane.change(&waiting[i], &inVat)
		lane.Prints = append(lane.Prints, waiting[i])
	}
	if lane.InVat != "" {
		label, err := t.Resin(lane.InVat)
		if err != nil {
			return err
		}
		lane.InVat = label.Name
	}
	return nil
}

// change notes whether the vat is changed before a print.
func (l *Lane) change(p *WaitingPrint, inVat *string) {
	if p.VatChange = *inVat != "" && *inVat != p.resinID; p.VatChange {
		l.VatChanges++
	}
	*inVat = p.resinID
}

func (w *Tasks) laid(t *store.Tx, plateID string) (WaitingPrint, error) {
	s, err := w.planning.ReadPlate(t, plateID)
	if err != nil {
		return WaitingPrint{}, err
	}
	out := WaitingPrint{Code: s.Plate.Code, Name: s.Plate.Name, Link: "/plan/" + s.Plate.ID, State: "laid", Resin: s.Resin.Name, resinID: s.Resin.ID, Colour: s.Resin.Colour, planID: quantity.Or(s.Plate.ReviewPlanID, "")}
	after, err := planning.AfterOf(t, s.Resin, s.Plate.WashS, s.Plate.CureS)
	if err != nil {
		return out, err
	}
	out.AfterS, out.AfterSays = after.S, after.Says
	switch {
	case len(s.Placed) == 0:
		out.Reason = "Nothing lies on it yet."
	case s.Time == nil || s.Time.BestS == nil:
		out.Reason = "Its time is not known."
		if s.Time != nil {
			out.Reason = unknownTime(s.Time.Estimate.Reason)
		}
	default:
		out.TakesS, out.TakesPI = s.Time.BestS, s.Time.BestPI
		if s.Resins != nil && s.Resins.Budget != nil && s.Resins.Budget.DryAtS != nil && s.Time.Estimate.TotalS != nil {
			out.topUpAfterS = quantity.Ptr(*s.Resins.Budget.DryAtS * *s.Time.BestS / *s.Time.Estimate.TotalS)
		}
	}
	return out, nil
}
