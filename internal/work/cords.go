package work

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/store"
)

// Cord is a machine through time.
type Cord struct {
	MachineID string `json:"machine_id"`
	Code      string `json:"code"`
	Name      string `json:"name"`
	About     string `json:"about"`
	Beads     []Bead `json:"beads"`
	Knots     []Knot `json:"knots"`
}

// Bead is a run. Shape tells its outcome: whole, nicked (micro-defects), split
// (part of the plate lost), ring (nothing usable), open (not judged yet).
type Bead struct {
	RunID     string `json:"run_id"`
	Code      string `json:"code"`
	StartedMS int64  `json:"started_ms"`
	EndedMS   *int64 `json:"ended_ms"`
	Shape     string `json:"shape" enum:"whole,nicked,split,ring,open"`
	Resin     string `json:"resin"`
	Colour    string `json:"colour"`
	Piece     string `json:"piece"`
	Whole     int64  `json:"whole"`
	Copies    int64  `json:"copies"`
}

// Knot is something that changed the machine.
type Knot struct {
	AtMS int64  `json:"at_ms"`
	Kind string `json:"kind"`
	Note string `json:"note"`
}

// NextStep is something to do at the bench, with why, and where.
type NextStep struct {
	Title string `json:"title"`
	Why   string `json:"why"`
	Link  string `json:"link"`
}

// Bench is the home view: the cords and what to do next.
type Bench struct {
	NowMS int64      `json:"now_ms"`
	Cords []Cord     `json:"cords"`
	Next  []NextStep `json:"next"`
}

// Bench reads the home view.
func (w *Work) Bench(ctx context.Context) (out Bench, err error) {
	out = Bench{NowMS: w.nowMS(), Cords: []Cord{}, Next: []NextStep{}}
	err = w.store.Read(ctx, func(t *store.Tx) error {
		if err := out.thread(t); err != nil {
			return err
		}
		return w.plan(t, &out)
	})
	return out, err
}

// thread strings the beads and ties the knots.
func (b *Bench) thread(t *store.Tx) error {
	machines, err := t.Machines()
	if err != nil {
		return err
	}
	runs, err := t.Runs()
	if err != nil {
		return err
	}
	specimens, err := t.Specimens()
	if err != nil {
		return err
	}
	resins, err := t.Resins()
	if err != nil {
		return err
	}
	pieces, err := t.Pieces()
	if err != nil {
		return err
	}
	events, err := t.MachineEvents()
	if err != nil {
		return err
	}
	byRun := map[string][]bench.Specimen{}
	for _, s := range specimens {
		byRun[s.RunID] = append(byRun[s.RunID], s)
	}
	resin := byID(resins, func(r bench.Resin) string { return r.ID })
	piece := byID(pieces, func(p bench.Piece) string { return p.ID })
	for _, m := range machines {
		is, err := about(m)
		if err != nil {
			return err
		}
		cord := Cord{MachineID: m.ID, Code: m.Code, Name: m.Name, About: is, Beads: []Bead{}, Knots: []Knot{}}
		for _, r := range runs {
			if r.MachineID != m.ID {
				continue
			}
			bead := Bead{RunID: r.ID, Code: r.Code, StartedMS: r.StartedMS, EndedMS: r.EndedMS, Copies: r.Copies,
				Resin: resin[r.ResinID].Name, Colour: resin[r.ResinID].Colour, Piece: piece[r.PieceID].Name}
			bead.Shape, bead.Whole = shape(byRun[r.ID])
			cord.Beads = append(cord.Beads, bead)
		}
		for _, e := range events {
			if e.MachineID == m.ID {
				cord.Knots = append(cord.Knots, Knot{AtMS: e.AtMS, Kind: e.Kind, Note: e.Note})
			}
		}
		b.Cords = append(b.Cords, cord)
	}
	return nil
}

func about(m bench.Machine) (string, error) {
	if m.LightEngine == bench.Laser {
		return fmt.Sprintf("laser, spot %.3g µm", *m.SpotUM), nil
	}
	card, err := machineCard(m)
	if err != nil {
		return "", fmt.Errorf("pitch of %s: %w", m.Code, err)
	}
	engine := map[string]string{"masked_lcd": "masked LCD", "projector": "projector"}[m.LightEngine]
	return fmt.Sprintf("%s, pitch %.3g µm", engine, card.Pitch.PitchUM), nil
}

func shape(specimens []bench.Specimen) (string, int64) {
	var whole, micro, lost, pending int64
	for _, s := range specimens {
		switch s.Outcome {
		case "whole":
			whole++
		case "micro_defect":
			micro++
		case "lost":
			lost++
		default:
			pending++
		}
	}
	switch {
	case pending > 0:
		return "open", whole
	case lost == int64(len(specimens)):
		return "ring", whole
	case lost > 0:
		return "split", whole
	case micro > 0:
		return "nicked", whole
	}
	return "whole", whole
}

// plan lists what waits at the bench, nearest to a result first; on an empty
// record it leads through the first steps.
func (w *Work) plan(t *store.Tx, b *Bench) error {
	open, err := w.openSteps(t, b)
	if err != nil {
		return err
	}
	for _, c := range b.Cords {
		for _, bead := range c.Beads {
			if bead.Shape == "open" && !open[bead.RunID] {
				b.step("Judge the plate of "+bead.Code, fmt.Sprintf("%s on %s has no outcome yet, so no rate can count it.", bead.Piece, c.Name), "/runs/"+bead.RunID)
			}
		}
	}
	all, err := t.AllSeries()
	if err != nil {
		return err
	}
	for _, s := range all {
		if s.ProfileID != nil {
			continue
		}
		sheet, err := seriesSheet(t, s.ID)
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
	return b.firstSteps(t)
}

// openSteps says what prints now and when it ends, and what stands prepared.
func (w *Work) openSteps(t *store.Tx, b *Bench) (map[string]bool, error) {
	runs, err := t.OpenRuns()
	if err != nil {
		return nil, err
	}
	open := map[string]bool{}
	for _, r := range runs {
		open[r.ID] = true
		live, err := w.live(t, r.ID)
		if err != nil {
			return nil, err
		}
		m, err := t.Machine(r.MachineID)
		if err != nil {
			return nil, err
		}
		title, why := r.Code+" prints on "+m.Name, "Its time cannot be foretold: the settings are sealed."
		switch {
		case live.State == bench.Prepared:
			title, why = "Start "+r.Code+" on "+m.Name, fmt.Sprintf("It is prepared; %d items of the preflight are open.", live.Open)
		case live.Live != nil:
			why = fmt.Sprintf("Layer %d of %d; about %s left.", live.Live.Layer, live.Live.Layers, clock(&live.Live.LeftS))
			if live.State == bench.Paused {
				title = r.Code + " is paused on " + m.Name
			}
			if live.Level != nil && live.Level.DryLayer != nil {
				why += fmt.Sprintf(" The vat runs dry in layer %d: top up %.0f ml in time.", *live.Level.DryLayer, live.Level.ShortML)
			}
		}
		b.step(title, why, "/runs/"+r.ID)
	}
	return open, nil
}

func (b *Bench) step(title, why, link string) {
	b.Next = append(b.Next, NextStep{Title: title, Why: why, Link: link})
}

func (b *Bench) firstSteps(t *store.Tx) error {
	if len(b.Cords) == 0 {
		b.step("Enter your first machine", "Its plate, pixels and motion give pitch and print time.", "/kit/machines/new")
		return nil
	}
	resins, err := t.Resins()
	if err != nil {
		return err
	}
	if len(resins) == 0 {
		b.step("Enter a resin and a bottle", "Cost, age and settings hang on them.", "/kit/resins/new")
	}
	pieces, err := t.Pieces()
	if err != nil {
		return err
	}
	if len(pieces) == 0 {
		b.step("Import a piece", "Say what will be measured on it before it is printed.", "/kit/pieces/new")
	}
	reviews, err := t.Reviews()
	if err != nil {
		return err
	}
	if len(reviews) == 0 {
		b.step("State the question", "Who reads the review, what is compared, what is held, who paid.", "/verdict/new")
	}
	profiles, err := t.Profiles()
	if err != nil {
		return err
	}
	if len(profiles) == 0 && len(resins) > 0 {
		b.step("Dial in an exposure", "A print needs settings; a series finds them for machine, resin and layer height.", "/dial-in/new")
	}
	return nil
}
