package experiment

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// PlanDraft is the plan of the prints that a review lacks, drawn and not kept yet: the
// combinations, the prints machine by machine in their drawn order, how long each machine
// takes, and what is to be said of all that. Tells is what the prints of the review tell
// once these are printed.
type PlanDraft struct {
	Factors      []MatrixFactor `json:"factors"`
	Pieces       []MatrixPiece  `json:"pieces"`
	Combinations []Combination  `json:"combinations"`
	Prints       []DraftPrint   `json:"prints"`
	Machines     []MachineTime  `json:"machines"`
	Seed         int64          `json:"seed"`
	VatChanges   int64          `json:"vat_changes"`
	Says         []string       `json:"says"`
	Tells        []string       `json:"tells"`

	plates []draftPlate
}

// DraftPrint is one print of the order: which combination, what lies on its plate, and when
// it would print, in hours since the Monday on which the plan begins; nil where its time is
// not known.
type DraftPrint struct {
	Turn        int64    `json:"turn"`
	Machine     string   `json:"machine"`
	Combination int      `json:"combination"`
	Words       string   `json:"words"`
	Holds       string   `json:"holds"`
	Mirrored    bool     `json:"mirrored"`
	VatChange   bool     `json:"vat_change"`
	TakesS      *float64 `json:"takes_s"`
	StartH      *float64 `json:"start_h"`
	EndH        *float64 `json:"end_h"`
}

// MachineTime is how long a machine takes for its part of a plan by the reviewer's week;
// hours are nil, with the reason, where a time is not known.
type MachineTime struct {
	Machine   string   `json:"machine"`
	Prints    int64    `json:"prints"`
	RunH      *float64 `json:"run_h"`
	AttendedH *float64 `json:"attended_h"`
	EndH      *float64 `json:"end_h"`
	Reason    string   `json:"reason"`
}

// draftPlate is a plate with what lies on it.
type draftPlate struct {
	plate      bench.Plate
	placements []bench.Placement
	side       int
}

// DraftPlan draws the prints that a review lacks. Nothing is kept.
func (w *Tasks) DraftPlan(ctx context.Context, reviewID string, req PlanRequest) (out PlanDraft, err error) {
	if req.Seed == nil {
		seed, err := w.NewSeed()
		if err != nil {
			return out, err
		}
		req.Seed = &seed
	}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = w.draft(t, reviewID, req)
		return err
	})
	return out, err
}

// draft makes a plan within a transaction; the request holds its seed.
func (w *Tasks) draft(t *store.Tx, reviewID string, req PlanRequest) (out PlanDraft, err error) {
	p := planner{t: t, reader: printing.NewReader(t), request: req, nowMS: w.NowMS(), shown: map[string][]level{}}
	if p.review, err = t.Review(reviewID); err != nil {
		return out, err
	}
	if p.matrix, err = matrixOf(t, p.reader, p.review, p.nowMS); err != nil {
		return out, err
	}
	if err := p.members(); err != nil {
		return out, err
	}
	profiles, err := t.Profiles()
	if err != nil {
		return out, err
	}
	p.profiles = slices.DeleteFunc(profiles, func(o bench.Profile) bool { return o.ArchivedMS != nil || o.Basis == bench.BasisSeries })
	if err := p.wanted(); err != nil {
		return out, err
	}
	out = PlanDraft{Factors: p.factors, Pieces: p.matrix.out.Pieces, Prints: []DraftPrint{}, Machines: []MachineTime{}, Seed: *req.Seed, Says: []string{}}
	if out.Combinations, err = p.combinations(); err != nil {
		return out, err
	}
	if err := p.choose(out.Combinations); err != nil {
		return out, err
	}
	if out.Tells, _, err = p.tell(out.Combinations, func(c CombinationCell) int64 { return c.Prints + c.Planned + c.Add }); err != nil {
		return out, err
	}
	if err := w.order(&p, &out); err != nil {
		return out, err
	}
	return out, w.say(&p, &out)
}

// onPlate is what a plate of the plan holds: a combination with one piece, or with all.
type onPlate struct {
	combination int
	pieces      []bench.Piece
	prints      int64
}

func (p *planner) sidesOf(all []Combination) (out []onPlate) {
	for i, c := range all {
		if p.request.Mixed {
			out = append(out, onPlate{i, p.pieces, c.Cells[0].Add})
			continue
		}
		for k, cell := range c.Cells {
			out = append(out, onPlate{i, p.pieces[k : k+1], cell.Add})
		}
	}
	return slices.DeleteFunc(out, func(s onPlate) bool { return s.prints == 0 })
}

// order draws the prints, lays their plates, and says when each would print.
func (w *Tasks) order(p *planner, out *PlanDraft) error {
	sides := p.sidesOf(out.Combinations)
	in := plan.DrawInput{Seed: out.Seed, InVat: map[string]string{}}
	for _, s := range sides {
		c := out.Combinations[s.combination]
		in.Sides = append(in.Sides, plan.DrawSide{Machine: c.Machine, Resin: c.Resin, Prints: s.prints})
	}
	for _, m := range p.machines {
		last, err := lastResin(p, m.ID)
		if err != nil {
			return err
		}
		in.InVat[m.Name] = last
	}
	drawn, err := plan.Draw(in)
	if err != nil {
		return err
	}
	laid, err := p.lay(sides, out.Combinations)
	if err != nil {
		return err
	}
	times := make([]*float64, len(sides))
	for i, s := range sides {
		if times[i], err = w.takes(p, out.Combinations[s.combination], laid[i]); err != nil {
			return err
		}
	}
	for _, d := range drawn.Prints {
		s := sides[d.Side]
		c := out.Combinations[s.combination]
		one := draftPlate{plate: laid[d.Side].plate, placements: slices.Clone(laid[d.Side].placements), side: d.Side}
		if d.Mirrored {
			m := named(p.machines, c.Machine, func(m bench.Machine) string { return m.Name })
			usable, err := kit.UsableOf(p.t, m)
			if err != nil {
				return err
			}
			mirror(one.placements, m, usable)
		}
		one.plate.PlanTurn = quantity.Ptr(d.Turn)
		out.plates = append(out.plates, one)
		out.Prints = append(out.Prints, DraftPrint{Turn: d.Turn, Machine: d.Machine, Combination: s.combination, Words: p.tellsApart(c), Holds: holds(s.pieces, p.request.Copies),
			Mirrored: d.Mirrored, VatChange: d.VatChange, TakesS: times[d.Side]})
	}
	out.VatChanges = drawn.VatChanges
	p.drawn, p.sides = drawn, sides
	return p.calendar(out)
}

// lastResin is what stands in the vat of a machine: the resin of its last print.
func lastResin(p *planner, machineID string) (string, error) {
	last, err := p.t.LastRunOfMachine(machineID)
	if err != nil {
		if task.IsMissing(err) {
			return "", nil
		}
		return "", err
	}
	r, err := p.reader.Resin(last.ResinID)
	return r.Name, err
}

// takes is how long a plate takes, by what prints of its machine taught.
func (w *Tasks) takes(p *planner, c Combination, d draftPlate) (*float64, error) {
	loads, err := planning.LoadsOf(p.reader.Piece, d.placements)
	if err != nil {
		return nil, err
	}
	m := named(p.machines, c.Machine, func(m bench.Machine) string { return m.Name })
	t, err := w.Planning.TimeFor(p.t, m, c.making.profile, d.plate, loads)
	if err != nil {
		return nil, err
	}
	return t.BestS, nil
}

// tellsApart are the levels of a combination that differ among those planned.
func (p *planner) tellsApart(c Combination) string {
	var words []string
	for i, f := range p.factors {
		switch {
		case len(f.Levels) < 2:
		case f.Key == machineFactor || f.Key == resinFactor:
			words = append(words, c.Levels[i])
		default:
			words = append(words, strings.ToLower(f.Name[:1])+f.Name[1:]+" "+c.Levels[i])
		}
	}
	if len(words) == 0 {
		return c.Settings
	}
	return strings.Join(words, ", ")
}

func holds(pieces []bench.Piece, copies int64) string {
	var words []string
	for _, piece := range pieces {
		words = append(words, fmt.Sprintf("%d × %s", copies, piece.Name))
	}
	return strings.Join(words, ", ")
}

// calendar says when each print begins and ends by the reviewer's week, machine by machine,
// as if each were looked after alone.
func (p *planner) calendar(out *PlanDraft) error {
	settings, err := p.t.Settings()
	if err != nil {
		return err
	}
	for _, m := range p.machines {
		in := plan.SequenceInput{TurnaroundMin: settings.TurnaroundMin, FromH: settings.AttendedFromH, ToH: settings.AttendedToH, Days: settings.AttendedDays}
		at := MachineTime{Machine: m.Name}
		var of []*DraftPrint
		for i := range out.Prints {
			d := &out.Prints[i]
			if d.Machine != m.Name {
				continue
			}
			at.Prints++
			of = append(of, d)
			if d.TakesS == nil {
				at.Reason = "The time of its prints is not known: its settings are hidden, and no print has taught it yet."
				continue
			}
			one := plan.SequencePrint{PrintS: *d.TakesS}
			if d.VatChange {
				one.ExtraMin = settings.VatChangeMin
			}
			in.Prints = append(in.Prints, one)
		}
		if at.Prints == 0 {
			continue
		}
		if at.Reason == "" {
			s, err := plan.Sequence(in)
			if err != nil {
				return err
			}
			for i, print := range s.Prints {
				of[i].StartH, of[i].EndH = &print.StartH, &print.EndH
			}
			if at.RunH, at.AttendedH, at.EndH = &s.RunH, &s.AttendedH, &s.EndH; s.Has("no_time") {
				at.Reason = s.Warnings.Warnings[0].Message
			}
		}
		out.Machines = append(out.Machines, at)
	}
	return nil
}
