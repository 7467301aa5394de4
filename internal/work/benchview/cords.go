package benchview

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/dialin"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
	"ojime/internal/work/upkeep"
)

// Cord is a machine through time, with what changed it and what it is to print
// next. Its beads are read by windows of time, since there may be thousands.
type Cord struct {
	MachineID string    `json:"machine_id"`
	Code      string    `json:"code"`
	Name      string    `json:"name"`
	About     string    `json:"about"`
	Knots     []Knot    `json:"knots"`
	Planned   []Planned `json:"planned"`
	// PlannedMore counts those planned that are not listed: a plan may hold many.
	PlannedMore int64 `json:"planned_more"`
}

// Bead is a run. Shape tells its outcome: whole, nicked (micro-defects), split
// (part of the plate lost), ring (nothing usable), open (not judged yet).
type Bead struct {
	RunID     string   `json:"run_id"`
	MachineID string   `json:"machine_id"`
	ResinID   string   `json:"resin_id"`
	PieceIDs  []string `json:"piece_ids"`
	Printed   string   `json:"printed"`
	Code      string   `json:"code"`
	StartedMS int64    `json:"started_ms"`
	EndedMS   *int64   `json:"ended_ms"`
	Shape     string   `json:"shape" enum:"whole,nicked,split,ring,open"`
	Whole     int64    `json:"whole"`
	Copies    int64    `json:"copies"`
}

// Planned is a print ahead of now, in the order of the plan: a run that is
// prepared, or a plate that nothing printed yet.
type Planned struct {
	Code  string   `json:"code"`
	Name  string   `json:"name"`
	State string   `json:"state" enum:"prepared,laid"`
	TakeS *float64 `json:"take_s"`
	Link  string   `json:"link"`
}

// Thread is a resin as cords show it.
type Thread struct {
	ResinID string `json:"resin_id"`
	Name    string `json:"name"`
	Colour  string `json:"colour"`
}

// Knot is something that changed the machine.
type Knot struct {
	ID      string   `json:"id"`
	AtMS    int64    `json:"at_ms"`
	Kinds   []string `json:"kinds"`
	Note    string   `json:"note"`
	Changes int64    `json:"changes"`
}

// NextStep is something to do at the bench, with why, and where.
type NextStep struct {
	Title string `json:"title"`
	Why   string `json:"why"`
	Link  string `json:"link"`
}

// Bench is the home view: the cords, what to do next and what wears out soon.
type Bench struct {
	NowMS   int64             `json:"now_ms"`
	FirstMS int64             `json:"first_ms"`
	Cords   []Cord            `json:"cords"`
	Threads []Thread          `json:"threads"`
	Pieces  map[string]string `json:"pieces"`
	Next    []NextStep        `json:"next"`
	Due     []upkeep.Due      `json:"due"`
	// Road leads from the question to what is published.
	Road []RoadStep `json:"road"`
}

// Bench reads the home view.
func (w *Tasks) Bench(ctx context.Context) (out Bench, err error) {
	out = Bench{NowMS: w.NowMS(), Cords: []Cord{}, Threads: []Thread{}, Pieces: map[string]string{}, Next: []NextStep{}, Due: []upkeep.Due{}, Road: []RoadStep{}}
	at := w.Store.Changes()
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		if err := out.thread(t); err != nil {
			return err
		}
		if err := w.plan(t, &out); err != nil {
			return err
		}
		wearing, err := w.Upkeep.At(t, at)
		for _, d := range wearing.Due {
			if d.State == "due" || d.State == "soon" {
				out.Due = append(out.Due, d)
			}
		}
		return err
	})
	return out, err
}

// Beads reads the beads of all cords that began from one instant to another.
func (w *Tasks) Beads(ctx context.Context, fromMS, toMS int64) ([]Bead, error) {
	out := []Bead{}
	err := w.Store.Read(ctx, func(t *store.Tx) error {
		rows, err := t.Beads(fromMS, toMS)
		if err != nil {
			return err
		}
		tallies, err := t.TalliesBetween(fromMS, toMS)
		if err != nil {
			return err
		}
		names := map[string]string{}
		pieces, err := t.PieceNames()
		for _, p := range pieces {
			names[p.ID] = p.Name
		}
		for _, r := range rows {
			printed := printing.PrintedOf(tallies[r.ID], names)
			ids := []string{}
			for _, p := range printed {
				ids = append(ids, p.PieceID)
			}
			out = append(out, Bead{PieceIDs: ids, RunID: r.ID, MachineID: r.MachineID, ResinID: r.ResinID, Printed: printing.PrintedWords(printed), Code: r.Code, StartedMS: r.StartedMS, EndedMS: r.EndedMS,
				Shape: r.Shape, Whole: bench.CountsOf(tallies[r.ID]).Whole, Copies: r.Copies})
		}
		return err
	})
	return out, err
}

// thread lays out the cords and ties the knots.
func (b *Bench) thread(t *store.Tx) error {
	machines, err := t.Machines()
	if err != nil {
		return err
	}
	resins, err := t.Resins()
	if err != nil {
		return err
	}
	for _, r := range resins {
		b.Threads = append(b.Threads, Thread{r.ID, r.Name, r.Colour})
	}
	pieces, err := t.PieceNames()
	if err != nil {
		return err
	}
	for _, p := range pieces {
		b.Pieces[p.ID] = p.Name
	}
	if b.FirstMS, err = t.FirstRunMS(); err != nil {
		return err
	}
	planned, err := plannedPrints(t, b.Pieces)
	if err != nil {
		return err
	}
	for _, m := range machines {
		events, err := t.EventsOfMachine(m.ID)
		if err != nil {
			return err
		}
		cord := Cord{MachineID: m.ID, Code: m.Code, Name: m.Name, About: about(m), Knots: []Knot{}, Planned: planned[m.ID]}
		if cord.Planned == nil {
			cord.Planned = []Planned{}
		}
		if more := len(cord.Planned) - fewPlanned; more > 0 {
			cord.Planned, cord.PlannedMore = cord.Planned[:fewPlanned], int64(more)
		}
		for _, e := range events {
			if e.RetiredMS == nil {
				cord.Knots = append(cord.Knots, Knot{ID: e.ID, AtMS: e.AtMS, Kinds: e.Kinds, Note: e.Note, Changes: int64(len(e.Changes))})
			}
		}
		b.Cords = append(b.Cords, cord)
	}
	return nil
}

// plannedPrints lists what is prepared and what is laid and not printed yet, by
// machine.
func plannedPrints(t *store.Tx, names map[string]string) (map[string][]Planned, error) {
	out := map[string][]Planned{}
	runs, err := t.OpenRuns()
	if err != nil {
		return nil, err
	}
	for _, r := range runs {
		events, err := t.EventsOfRun(r.ID)
		if err != nil {
			return nil, err
		}
		if bench.StateOf(r, events) != bench.Prepared {
			continue
		}
		tallies, err := t.TalliesOfRun(r.ID)
		if err != nil {
			return nil, err
		}
		out[r.MachineID] = append(out[r.MachineID], Planned{Code: r.Code, Name: printing.PrintedWords(printing.PrintedOf(tallies, names)), State: "prepared", TakeS: r.OurEstimateS, Link: "/runs/" + r.ID})
	}
	plates, err := t.UnprintedPlates()
	for _, p := range plates {
		out[p.MachineID] = append(out[p.MachineID], Planned{Code: p.Code, Name: p.Name, State: "laid", TakeS: p.SoftwareEstimateS, Link: "/plan/" + p.ID})
	}
	return out, err
}

// about is a machine in a few words. What cannot be computed of it is left out:
// one machine must not hide the bench.
func about(m bench.Machine) string {
	if m.LightEngine == bench.Laser {
		return fmt.Sprintf("laser, spot %s µm", say.Figure(quantity.Or(m.SpotUM, 0)))
	}
	engine := map[string]string{"masked_lcd": "masked LCD", "projector": "projector"}[m.LightEngine]
	pitch, err := kit.PitchOf(m)
	if err != nil || pitch == nil {
		return engine + ", its pitch cannot be worked out"
	}
	return fmt.Sprintf("%s, pitch %s µm", engine, say.Figure(pitch.PitchUM))
}

// plan lists what waits at the bench, nearest to a result first; on an empty
// record it leads through the first steps.
func (w *Tasks) plan(t *store.Tx, b *Bench) error {
	if err := w.openSteps(t, b); err != nil {
		return err
	}
	pending, err := t.PendingRuns(fewSteps)
	if err != nil {
		return err
	}
	for _, r := range pending {
		tallies, err := t.TalliesOfRun(r.ID)
		if err != nil {
			return err
		}
		b.step("Judge the plate of "+r.Code, fmt.Sprintf("%s on %s has no outcome yet, so no rate can count it.", printing.PrintedWords(printing.PrintedOf(tallies, b.Pieces)), b.machine(r.MachineID)), "/runs/"+r.ID)
	}
	if err := w.timerSteps(t, b); err != nil {
		return err
	}
	if err := b.plannedSteps(t); err != nil {
		return err
	}
	if err := b.followUpSteps(t); err != nil {
		return err
	}
	all, err := t.AllSeries()
	if err != nil {
		return err
	}
	for _, s := range all {
		if s.ProfileID != nil {
			continue
		}
		sheet, err := dialin.ReadSeries(t, s.ID)
		if err != nil {
			return err
		}
		unread := 0
		for _, c := range sheet.Cells {
			if c.Reading == nil {
				unread++
			}
		}
		if unread > 0 {
			b.step("Read the cells of "+s.Code, fmt.Sprintf("%d of %d cells on %s are not judged.", unread, len(sheet.Cells), sheet.Machine), "/dial-in/"+s.ID)
		} else {
			b.step("Choose from "+s.Code, "Every cell is judged; accept an exposure for "+sheet.Machine+" or print again.", "/dial-in/"+s.ID)
		}
	}
	if err := b.panelSteps(t); err != nil {
		return err
	}
	so, err := t.RoadSoFar()
	if err != nil {
		return err
	}
	b.Road = roadOf(so)
	b.firstSteps()
	return nil
}

// openSteps says what prints now and when it ends, and what stands prepared.
func (w *Tasks) openSteps(t *store.Tx, b *Bench) error {
	runs, err := t.OpenRuns()
	if err != nil {
		return err
	}
	for _, r := range runs {
		live, err := w.Printing.ReadLive(t, r.ID)
		if err != nil {
			return err
		}
		name := b.machine(r.MachineID)
		title, why := r.Code+" prints on "+name, "Its time cannot be foretold: the settings are sealed."
		switch {
		case live.State == bench.Prepared:
			title, why = "Start "+r.Code+" on "+name, fmt.Sprintf("It is prepared; %s.", say.Counted(live.Open, "item of the preflight is open", "items of the preflight are open"))
		case live.Live != nil:
			why = fmt.Sprintf("Layer %d of %d; about %s left.", live.Live.Layer, live.Live.Layers, say.Duration(live.Live.LeftS))
			if live.State == bench.Paused {
				title = r.Code + " is paused on " + name
			}
			if live.Level != nil && live.Level.DryLayer != nil {
				why += fmt.Sprintf(" The vat runs dry in layer %d: top up %.0f ml in time.", *live.Level.DryLayer, live.Level.ShortML)
			}
		}
		b.step(title, why, "/runs/"+r.ID)
	}
	return nil
}

// timerSteps names the washes and cures whose timers run.
func (w *Tasks) timerSteps(t *store.Tx, b *Bench) error {
	steps, err := t.RunningSteps()
	if err != nil {
		return err
	}
	for _, s := range steps {
		r, err := t.Run(s.RunID)
		if err != nil {
			return err
		}
		gone := float64(b.NowMS-s.StartedMS) / 1000
		why := fmt.Sprintf("It has gone on for %s.", say.Duration(gone))
		if s.PlannedS != nil {
			why = fmt.Sprintf("%s of %s are over.", say.Duration(gone), say.Duration(*s.PlannedS))
		}
		b.step(fmt.Sprintf("%s of %s goes on", stepWords[s.Kind], r.Code), why, "/runs/"+r.ID)
	}
	return nil
}

// stepWords name the steps after a print.
var stepWords = map[string]string{"drip": "Dripping", "wash": "The wash", "dry": "Drying", "supports": "Taking supports off", "cure": "The cure"}

// fewSteps is how many prints of a kind are named at the bench, fewPlanned how many ahead
// of now a cord shows.
const (
	fewSteps   = 5
	fewPlanned = 6
)

// machine is the name of a machine that has a cord.
func (b *Bench) machine(id string) string {
	for _, c := range b.Cords {
		if c.MachineID == id {
			return c.Name
		}
	}
	return ""
}

func (b *Bench) step(title, why, link string) {
	b.Next = append(b.Next, NextStep{Title: title, Why: why, Link: link})
}
