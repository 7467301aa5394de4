package tables

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/outcome"
	"ojime/internal/core/quantity"
	"ojime/internal/core/shorthand"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
)

// printRow is a print as it is recorded afterwards.
type printRow struct {
	printing.Recording
	machine, settings, bottle, pieces, plate, whole string
	started                                         *int64
	tookS                                           *float64
	// ready is the print as Ready let it pass, notWhole the copies that wait to be judged.
	ready    printing.Recording
	judged   bool
	notWhole []int64
}

// prints is a print a row, with what became of its copies where they are whole. What was measured
// of a print or seen of its copies does not begin the next row: it would pass for measured.
// Filled down, it is said.
var prints = kind[printRow]{
	name: "prints", title: "Prints recorded afterwards", each: "print",
	about: "A print a row. Settings say the machine and the resin. “all”, or “all but 3, 7”, says which copies came out whole; what is wrong with the others has a table of its own.",
	columns: []column[printRow]{
		text("settings", "Settings", func(r *printRow) *string { return &r.settings }).needed().carried(),
		text("bottle", "Bottle", func(r *printRow) *string { return &r.bottle }).carried(),
		text("pieces", "Pieces", func(r *printRow) *string { return &r.pieces }).carried().as("2 × Turret; Bust at 90 %"),
		instant("started", "Began", func(r *printRow) **int64 { return &r.started }).needed(),
		duration("took_s", "Took", func(r *printRow) **float64 { return &r.tookS }),
		text("whole", "Whole copies", func(r *printRow) *string { return &r.whole }).as("all but 3"),
		maybe("room_temp_c", "Room", func(r *printRow) **float64 { return &r.RoomTempC }),
		maybe("humidity_pct", "Humidity", func(r *printRow) **float64 { return &r.HumidityPct }).more(),
		maybe("resin_temp_c", "Resin", func(r *printRow) **float64 { return &r.ResinTempC }),
		maybeText("software", "Software", func(r *printRow) **string { return &r.Software }).carried(),
		duration("software_estimate_s", "Its estimate", func(r *printRow) **float64 { return &r.SoftwareEstimateS }),
		maybe("resin_used_g", "Resin used", func(r *printRow) **float64 { return &r.ResinUsedG }),
		maybe("attended_min", "Attended", func(r *printRow) **float64 { return &r.AttendedMin }),
		choice("ended_how", "How it ended", func(r *printRow) *string { return &r.EndedHow }, "finished", "stopped"),
		whole("stopped_layer", "Stopped at layer", func(r *printRow) **int64 { return &r.StoppedLayer }).more(),
		instant("ended", "Ended at", func(r *printRow) **int64 { return &r.EndedMS }).more(),
		number("paused_s", "Paused", func(r *printRow) *float64 { return &r.PausedS }).more(),
		maybeText("orientation", "Orientation", func(r *printRow) **string { return &r.Orientation }).more().carried(),
		maybeText("supports", "Supports", func(r *printRow) **string { return &r.Supports }).more().carried(),
		maybe("wash_s", "Wash", func(r *printRow) **float64 { return &r.WashS }).more().carried(),
		maybe("cure_s", "Cure", func(r *printRow) **float64 { return &r.CureS }).more().carried(),
		maybeChoice("surface", "Surface", func(r *printRow) **string { return &r.Surface }, "raw", "primed", "painted").more().carried(),
		truth("film_clouded", "Film looked cloudy", func(r *printRow) **bool { return &r.FilmClouded }).more(),
		truth("level_off", "Level looked off", func(r *printRow) **bool { return &r.LevelOff }).more(),
		maybe("vat_fill_ml", "Vat filled to", func(r *printRow) **float64 { return &r.VatFillML }).more(),
		text("plate", "Plate", func(r *printRow) *string { return &r.plate }).more(),
		text("machine", "Machine", func(r *printRow) *string { return &r.machine }).more(),
		text("notes", "Notes", func(r *printRow) *string { return &r.Notes }).more(),
		text("run", "Print", func(r *printRow) *string { return &r.Code }).more(),
	},
	fresh:    func() printRow { return printRow{} },
	onRecord: printsOnRecord,
	begin:    beginPrints,
	offered: func(t *store.Tx) (map[string][]string, error) {
		b, err := newPrintRows(nil, t, false)
		if err != nil {
			return nil, err
		}
		return map[string][]string{"settings": offers(b.settings), "bottle": offers(b.bottles), "pieces": offers(b.pieces), "machine": offers(b.machines), "plate": offers(b.plates)}, nil
	},
}

func beginPrints(w *Tasks, t *store.Tx, confirmed bool) (batch[printRow], error) {
	return newPrintRows(w, t, confirmed)
}

// printRows are what prints refer to, and when each machine began its prints.
type printRows struct {
	w                                           *Tasks
	t                                           *store.Tx
	confirmed                                   bool
	machines, settings, bottles, pieces, plates []named
	began                                       map[string][]bench.Run
}

func newPrintRows(w *Tasks, t *store.Tx, confirmed bool) (b *printRows, err error) {
	b = &printRows{w: w, t: t, confirmed: confirmed, began: map[string][]bench.Run{}}
	if b.machines, err = machinesNamed(t); err != nil {
		return nil, err
	}
	if b.settings, err = settingsNamed(t); err != nil {
		return nil, err
	}
	if b.pieces, err = piecesNamed(t); err != nil {
		return nil, err
	}
	bottles, err := t.Bottles()
	if err != nil {
		return nil, err
	}
	names, err := kit.ResinNames(t)
	if err != nil {
		return nil, err
	}
	b.bottles = namedOf(bottles, func(v bench.Bottle) named { return named{v.ID, v.Code, v.Code + " of " + names[v.ResinID]} })
	plates, err := t.Plates()
	b.plates = namedOf(plates, func(p bench.Plate) named { return named{p.ID, p.Code, p.Code + " " + p.Name} })
	return b, err
}

func (b *printRows) look(r *printRow, filled map[string]bool) (fate, says string, err error) {
	p, err := b.refer(r)
	if err != nil {
		return "", "", err
	}
	if err := b.timed(r); err != nil {
		return "", "", err
	}
	if known, err := b.beganThen(p.MachineID, r.StartedMS); err != nil || known != nil {
		if err != nil {
			return "", "", err
		}
		return b.stands(*r, *known, filled)
	}
	r.Confirmed = b.confirmed
	if r.ready, err = b.w.printing.Ready(b.t, r.Recording); err != nil {
		return "", "", ofTook(*r, err)
	}
	if beyond := bench.Beyond(r.ready.Run); len(beyond) > 0 {
		return "", "", beyond[0]
	}
	if err := b.judge(r); err != nil {
		return "", "", err
	}
	b.began[p.MachineID] = append(b.began[p.MachineID], r.ready.Run)
	return Kept, b.says(*r), nil
}

// ofTook puts what is wrong with the end of a print where the row says it: how long it took.
func ofTook(r printRow, err error) error {
	var field *quantity.FieldError
	if r.tookS == nil || !errors.As(err, &field) || field.Path != "ended_ms" {
		return err
	}
	if errors.Is(err, bench.ErrQuestioned) {
		return bench.Questioned("took_s", "%s", field.Message)
	}
	return quantity.Errorf("took_s", "%s", field.Message)
}

// refer finds what a row names.
func (b *printRows) refer(r *printRow) (p bench.Profile, err error) {
	if r.ProfileID, err = find(r.settings, "settings", b.settings); err != nil {
		return p, inColumn("settings", err)
	}
	if p, err = b.t.Profile(r.ProfileID); err != nil {
		return p, err
	}
	r.MachineID, r.ResinID = p.MachineID, p.ResinID
	if r.machine != "" {
		if id, err := find(r.machine, "machine", b.machines); err != nil || id != p.MachineID {
			return p, inColumn("machine", fmt.Errorf("%.60q is not the machine of these settings, which is %s", r.machine, nameOf(p.MachineID, b.machines)))
		}
	}
	if r.bottle != "" {
		id, err := find(r.bottle, "bottle", b.bottles)
		if err != nil {
			return p, inColumn("bottle", err)
		}
		r.BottleID = &id
	}
	if r.plate != "" {
		id, err := find(r.plate, "plate", b.plates)
		if err != nil {
			return p, inColumn("plate", err)
		}
		r.PlateID = &id
		return p, nil
	}
	r.Pieces, err = b.portions(r.pieces)
	return p, err
}

// portion is how many of a piece, which one, and at which scale: 2 × Turret at 90 %.
var portion = regexp.MustCompile(`^(?:(\d{1,3})\s*[×x*]\s*)?(.+?)(?:\s+at\s+(\d+(?:[.,]\d+)?)\s*%)?$`)

// portions reads what was printed.
func (b *printRows) portions(cell string) ([]printing.Portion, error) {
	out := []printing.Portion{}
	for _, words := range strings.Split(cell, ";") {
		if words = strings.TrimSpace(words); words == "" {
			continue
		}
		found := portion.FindStringSubmatch(words)
		if found == nil {
			return nil, quantity.Errorf("pieces", "%.60q names no piece; write 2 × Turret", words)
		}
		id, err := find(found[2], "piece", b.pieces)
		if err != nil {
			return nil, inColumn("pieces", err)
		}
		p := printing.Portion{PieceID: id, Copies: 1}
		if found[1] != "" {
			if p.Copies, err = strconv.ParseInt(found[1], 10, 64); err != nil || p.Copies < 1 {
				return nil, quantity.Errorf("pieces", "%.20q is no number of copies", found[1])
			}
		}
		if found[3] != "" {
			pct, err := bench.ParseQuantity(found[3], "%")
			if err != nil || pct <= 0 {
				return nil, quantity.Errorf("pieces", "%.20q is no scale", found[3])
			}
			p.ScalePct = &pct
		}
		out = append(out, p)
	}
	return out, nil
}

// timed puts the end of a print where its row says.
func (b *printRows) timed(r *printRow) error {
	r.StartedMS = *r.started
	if r.tookS == nil {
		return nil
	}
	if *r.tookS <= 0 {
		return quantity.Errorf("took_s", "is %s s; a print takes longer than nothing", say.Figure(*r.tookS))
	}
	ended := r.StartedMS + int64((*r.tookS+r.PausedS)*1000)
	if r.EndedMS != nil && !bench.SameMoment(*r.EndedMS, ended) {
		return quantity.Errorf("took_s", "does not agree with the end of the print; leave one of them out")
	}
	r.EndedMS = &ended
	return nil
}

// beganThen is the print that a machine began at a moment, nil for none.
func (b *printRows) beganThen(machineID string, ms int64) (*bench.Run, error) {
	if b.began[machineID] == nil {
		runs, err := b.t.RunsOfMachine(machineID)
		if err != nil {
			return nil, err
		}
		b.began[machineID] = append([]bench.Run{}, runs...)
	}
	i := slices.IndexFunc(b.began[machineID], func(r bench.Run) bool { return bench.SameMoment(r.StartedMS, ms) })
	if i < 0 {
		return nil, nil
	}
	return &b.began[machineID][i], nil
}

// stands is the fate of a row whose machine began a print then.
func (b *printRows) stands(r printRow, known bench.Run, filled map[string]bool) (fate, says string, err error) {
	if known.Code == "" {
		return "", "", quantity.Errorf("started", "is when the print of a row before this one begins on %s", nameOf(known.MachineID, b.machines))
	}
	on, err := b.rowOf(known)
	if err != nil {
		return "", "", err
	}
	r.settings, r.pieces, r.machine = nameOf(r.ProfileID, b.settings), b.piecesWords(r.Pieces), nameOf(r.MachineID, b.machines)
	r.bottle = codeOf(r.BottleID, b.bottles)
	r.plate = codeOf(r.PlateID, b.plates)
	skip := []string{"started", "ended", "took_s", "run", "whole"}
	if r.PlateID != nil {
		skip = append(skip, "pieces") // the plate says them
	}
	columns := slices.DeleteFunc(slices.Clone(prints.columns), func(c column[printRow]) bool { return slices.Contains(skip, c.Name) })
	if labels := differing(columns, filled, r, on); len(labels) > 0 {
		return "", "", quantity.Errorf("started", "is when %s began on this machine, with another %s; change it there", known.Code, say.List(labels))
	}
	return Same, "on record as " + known.Code, nil
}

// judge reads which copies came out whole.
func (b *printRows) judge(r *printRow) (err error) {
	if r.whole == "" {
		return nil
	}
	if r.EndedMS == nil {
		return quantity.Errorf("whole", "judges a print that has not ended; say how long it took")
	}
	if r.notWhole, err = shorthand.WholeBut(r.whole); err != nil {
		return quantity.Errorf("whole", "%v", err)
	}
	if n := len(r.notWhole); n > 0 && r.notWhole[n-1] > r.ready.Copies {
		return quantity.Errorf("whole", "names copy %d of %d", r.notWhole[n-1], r.ready.Copies)
	}
	r.judged = true
	return nil
}

// says is what a row was understood to say.
func (b *printRows) says(r printRow) string {
	words := []string{b.piecesWords(r.Pieces) + " on " + nameOf(r.MachineID, b.machines)}
	if r.plate != "" {
		words[0] = say.Counted(r.ready.Copies, "copy", "copies") + " on " + nameOf(r.MachineID, b.machines)
	}
	switch took := r.ready.TookS(); {
	case took == nil && r.EndedMS == nil:
		words = append(words, "not ended")
	case took == nil:
		words = append(words, "stopped")
	case r.ready.OurEstimateS != nil:
		words = append(words, fmt.Sprintf("%s, ours %s", say.Duration(*took), say.Duration(*r.ready.OurEstimateS)))
	default:
		words = append(words, say.Duration(*took))
	}
	if r.judged {
		whole := fmt.Sprintf("%d of %d whole", r.ready.Copies-int64(len(r.notWhole)), r.ready.Copies)
		if len(r.notWhole) > 0 {
			whole += ", the others still to be judged"
		}
		words = append(words, whole)
	}
	return strings.Join(words, "; ")
}

// piecesWords is what a row prints, as it is written.
func (b *printRows) piecesWords(pieces []printing.Portion) string {
	words := []string{}
	for _, p := range pieces {
		word := say.Copies(p.Copies, nameOf(p.PieceID, b.pieces))
		if pct := quantity.Or(p.ScalePct, 100); !quantity.Equal(pct, 100) {
			word += " at " + written(&pct) + " %"
		}
		words = append(words, word)
	}
	return strings.Join(words, "; ")
}

func (b *printRows) keep(t *store.Tx, r printRow) error {
	id, err := b.w.printing.RecordIn(t, r.ready)
	if err != nil || !r.judged {
		return err
	}
	specimens, err := t.SpecimensOfRun(id)
	if err != nil {
		return err
	}
	whole := []bench.Specimen{}
	for _, s := range specimens {
		if !slices.Contains(r.notWhole, s.Copy) {
			s.Outcome = outcome.Whole
			whole = append(whole, s)
		}
	}
	return b.w.inspect.JudgeIn(t, id, whole)
}
