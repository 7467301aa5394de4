package shorthand

import (
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/outcome"
	"ojime/internal/core/quantity"
	"ojime/internal/core/shorthand"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/printing"
)

// knotWords are the knots that a line may tie, as they are said.
var knotWords = map[string]string{"relevel": "relevelled", "zero": "zero set", "film": "new film", "move": "moved", "vat_clean": "vat cleaned"}

// tied is a knot on a machine's cord.
func (w *Tasks) tied(t *store.Tx, line shorthand.Line) (meaning, error) {
	m, err := t.Machine(line.MachineID)
	if err != nil {
		return meaning{}, err
	}
	says := fmt.Sprintf("%s: %s, now", m.Name, knotWords[line.Knot])
	if line.Note != "" {
		says += "; note: " + line.Note
	}
	return meaning{Understood: Understood{says + ".", "machine", m.ID}, keep: func(t *store.Tx, _ bool) error {
		_, err := w.kit.AddEventIn(t, bench.MachineEvent{MachineID: m.ID, AtMS: w.NowMS(), Kinds: bench.IDs{line.Knot}, Note: line.Note})
		return err
	}}, nil
}

// weighed is a bottle on the scale.
func (w *Tasks) weighed(t *store.Tx, line shorthand.Line) (meaning, error) {
	b, err := t.Bottle(line.BottleID)
	if err != nil {
		return meaning{}, err
	}
	r, err := t.Resin(b.ResinID)
	if err != nil {
		return meaning{}, err
	}
	says := fmt.Sprintf("%s of %s weighs %s g, the bottle included.", b.Code, r.Name, say.Figures(line.Grams, 6))
	return meaning{Understood: Understood{says, "resin", r.ID}, keep: func(t *store.Tx, _ bool) error {
		_, err := w.upkeep.HappenBottleIn(t, b.ID, bench.BottleEvent{Kind: "weighed", GrossG: &line.Grams})
		return err
	}}, nil
}

// happened is a top-up or a note while something prints.
func (w *Tasks) happened(t *store.Tx, line shorthand.Line) (meaning, error) {
	runID := line.RunID
	if runID == "" {
		var err error
		if runID, err = printsOn(t, line.MachineID); err != nil {
			return meaning{}, err
		}
	}
	sheet, err := printing.ReadRunSheet(t, runID)
	if err != nil {
		return meaning{}, err
	}
	event := bench.RunEvent{Kind: "note", Note: line.Note}
	says := fmt.Sprintf("Note of %s: %s", namedOf(sheet), line.Note)
	if line.Does == shorthand.TopUp {
		event = bench.RunEvent{Kind: "top_up", ML: &line.ML}
		says = fmt.Sprintf("%s ml poured in, now, while %s prints.", say.Figures(line.ML, 4), namedOf(sheet))
	}
	return meaning{Understood: Understood{says, "run", runID}, keep: func(t *store.Tx, confirmed bool) error {
		return w.printing.HappenIn(t, runID, event, confirmed)
	}}, nil
}

// aired is what the room of a print has: at its start where nothing was read yet, at its end once
// it ended.
func (w *Tasks) aired(t *store.Tx, line shorthand.Line) (meaning, error) {
	runID := line.RunID
	if runID == "" {
		var err error
		if runID, err = printsOn(t, line.MachineID); err != nil {
			return meaning{}, err
		}
	}
	sheet, err := printing.ReadRunSheet(t, runID)
	if err != nil {
		return meaning{}, err
	}
	reading := bench.RoomReading{Moment: "during", RoomTempC: line.RoomC, HumidityPct: line.HumidityPct}
	when := "while it prints"
	switch {
	case sheet.Run.EndedMS != nil:
		reading.Moment, when = "end", "at its end"
	case len(sheet.RoomReadings) == 0:
		reading.Moment, when = "start", "at its start"
	}
	says := fmt.Sprintf("Room of %s, %s: %s °C", namedOf(sheet), when, say.Figures(*line.RoomC, 4))
	if line.HumidityPct != nil {
		says += fmt.Sprintf(", %s %% humidity", say.Figures(*line.HumidityPct, 4))
	}
	return meaning{Understood: Understood{says + ".", "run", runID}, keep: func(t *store.Tx, _ bool) error {
		return w.printing.KeepRoom(t, sheet.Run, reading)
	}}, nil
}

// printsOn is the print that a machine is printing.
func printsOn(t *store.Tx, machineID string) (string, error) {
	m, err := t.Machine(machineID)
	if err != nil {
		return "", err
	}
	open, err := t.OpenRuns()
	if err != nil {
		return "", err
	}
	for _, r := range open {
		if r.MachineID != machineID {
			continue
		}
		events, err := t.EventsOfRun(r.ID)
		if err != nil {
			return "", err
		}
		if state := bench.StateOf(r, events); state == bench.Printing || state == bench.Paused {
			return r.ID, nil
		}
	}
	return "", quantity.Errorf("text", "is about what prints on %s, and nothing does; name a print by its code", m.Name)
}

func namedOf(s printing.RunSheet) string {
	return fmt.Sprintf("%s (%s on %s)", s.Run.Code, s.Printed, s.Machine.Name)
}

// ended is the end of a print, the judging of its copies, or both.
func (w *Tasks) ended(t *store.Tx, line shorthand.Line) (meaning, error) {
	sheet, err := printing.ReadRunSheet(t, line.RunID)
	if err != nil {
		return meaning{}, err
	}
	says := namedOf(sheet)
	event := bench.RunEvent{Kind: map[string]string{"finished": "finish", "stopped": "stop"}[line.Ended]}
	if line.Ended != "" {
		says += " " + line.Ended
		if line.TookS != nil {
			event.AtMS = sheet.Run.StartedMS + int64(*line.TookS*1000)
			says += " after " + say.Duration(*line.TookS)
		} else {
			says += ", now"
		}
	}
	judged := []bench.Specimen{}
	if line.Whole {
		var words string
		if judged, words, err = wholeBut(sheet, line.But); err != nil {
			return meaning{}, err
		}
		says += ": " + words
	}
	return meaning{Understood: Understood{says + ".", "run", line.RunID}, keep: func(t *store.Tx, confirmed bool) error {
		if line.Ended != "" {
			if err := w.printing.HappenIn(t, line.RunID, event, confirmed); err != nil {
				return err
			}
		}
		if len(judged) == 0 {
			return nil
		}
		return w.inspect.JudgeIn(t, line.RunID, judged)
	}}, nil
}

// wholeBut are the copies of a print that are whole, all but some, which stay as they are: what
// became of them is not said. A copy that was judged otherwise is not judged anew by the way.
func wholeBut(sheet printing.RunSheet, but []int64) ([]bench.Specimen, string, error) {
	copies := []int64{}
	for _, s := range sheet.Specimens {
		copies = append(copies, s.Copy)
	}
	for _, n := range but {
		if !slices.Contains(copies, n) {
			return nil, "", quantity.Errorf("text", "names copy %d; %s has %s", n, sheet.Run.Code, say.Counted(int64(len(copies)), "copy", "copies"))
		}
	}
	judged, waiting := []bench.Specimen{}, []string{}
	for _, s := range sheet.Specimens {
		switch {
		case slices.Contains(but, s.Copy):
			if s.Outcome == outcome.Pending {
				waiting = append(waiting, say.Whole(float64(s.Copy)))
			}
		case s.Outcome == outcome.Pending:
			s.Outcome = outcome.Whole
			judged = append(judged, s)
		case s.Outcome != outcome.Whole:
			return nil, "", quantity.Errorf("text", "calls copy %d whole, which was judged as %s; change that on the page of %s", s.Copy, say.Words(s.Outcome), sheet.Run.Code)
		}
	}
	if len(judged) == 0 {
		return nil, "", quantity.Errorf("text", "judges nothing: every other copy of %s is judged already", sheet.Run.Code)
	}
	words := say.Counted(int64(len(judged)), "copy is whole", "copies are whole")
	switch len(waiting) {
	case 0:
	case 1:
		words += "; copy " + waiting[0] + " waits to be judged"
	default:
		words += "; copies " + say.List(waiting) + " wait to be judged"
	}
	return judged, words, nil
}
