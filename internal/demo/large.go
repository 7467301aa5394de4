package demo

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work"
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
)

// Size says how much a large record holds.
type Size struct{ Runs, Specimens, Readings int }

// Large is the record that pages are timed on: 5,000 runs, 100,000 specimens and,
// though what is lost is not read, more than 1,000,000 readings.
var Large = Size{Runs: 5000, Specimens: 20, Readings: 11}

// largeSpan is how long before now a large record begins.
const largeSpan = 3 * 365 * 24 * time.Hour

// batchRuns is how many runs are written in one transaction.
const batchRuns = 100

// FillLarge builds a large record in an empty one: the kit through a user's
// tasks, the runs straight into the record, since a user's tasks would take
// hours. Numbers come from the same simulation, with faults of place: one
// machine leans to a side, one has a bad spot in its panel. It tells how many
// runs are done now and then.
func FillLarge(ctx context.Context, s *store.Store, now time.Time, size Size, tell func(done int)) (bool, error) {
	d := newScene(ctx, s, now, largeSpan)
	there, err := d.work.Kit.Machines(ctx)
	if err != nil || len(there) > 0 {
		return false, err
	}
	for _, step := range []func() error{d.kit, d.moreMachines, d.models, d.largeProfiles, d.verdict} {
		if err := step(); err != nil {
			return false, fmt.Errorf("build the kit: %w", err)
		}
	}
	l, err := d.newMass(size)
	if err != nil {
		return false, err
	}
	for done := 0; done < size.Runs; {
		upTo := min(done+batchRuns, size.Runs)
		if err := s.Write(ctx, func(t *store.Tx) error { return l.write(t, done, upTo) }); err != nil {
			return false, fmt.Errorf("write runs %d to %d: %w", done+1, upTo, err)
		}
		done = upTo
		tell(done)
	}
	d.clock = now
	return true, nil
}

func (d *scene) moreMachines() error {
	for _, twin := range []struct{ of, name string }{{"Harrow 6", "Harrow 6 by the window"}, {"Harrow 6", "Harrow 6 lent"}, {"Tern Mini", "Tern Mini II"}, {"Plover Box", "Plover Box II"}} {
		m := d.machines[twin.of].Machine
		m.ID, m.Name = "", twin.name
		card, err := d.work.Kit.SaveMachine(d.ctx, m)
		if err != nil {
			return err
		}
		d.machines[twin.name] = card
	}
	return nil
}

// largeNames keep the machines in a fixed order: maps have none.
var largeNames = []string{"Harrow 6", "Tern Mini", "Corvid L", "Plover Box", "Harrow 6 by the window", "Harrow 6 lent", "Tern Mini II", "Plover Box II"}
var largeResins = []string{"Fable Grey", "Heron Blue", "Madder Tough"}
var largePieces = []string{"Step coupon", "Warden with staff", "Cage lantern", "Spined wyrm"}

func (d *scene) largeProfiles() error {
	for _, m := range largeNames {
		for _, r := range largeResins {
			if err := d.byDefault(m, r, behaviours[m].bestS*resinFactor[r], "default"); err != nil {
				return err
			}
		}
	}
	return nil
}

// mass writes runs in bulk.
type mass struct {
	*scene
	size      Size
	estimates map[string]planning.Estimate
	film      map[string]float64
	levelled  map[string]time.Time
	open      map[string]bench.Bottle
	left      map[string]int
	bought    int64
}

func (d *scene) newMass(size Size) (*mass, error) {
	l := &mass{scene: d, size: size, estimates: map[string]planning.Estimate{}, film: map[string]float64{}, levelled: map[string]time.Time{},
		open: map[string]bench.Bottle{}, left: map[string]int{}, bought: int64(len(largeResins))}
	for _, m := range largeNames {
		l.levelled[m] = d.clock
		for _, r := range largeResins {
			for _, p := range largePieces {
				e, err := d.work.Planning.EstimateRun(d.ctx, d.profiles[m+r].ID, d.pieces[p].Piece.ID, int64(size.Specimens), 100)
				if err != nil {
					return nil, err
				}
				l.estimates[m+r+p] = e
			}
		}
	}
	return l, nil
}

func (l *mass) write(t *store.Tx, from, to int) error {
	begin := l.now.Add(-largeSpan)
	for i := from; i < to; i++ {
		l.clock = begin.Add(largeSpan / time.Duration(l.size.Runs) * time.Duration(i)).Add(time.Duration(l.chance.IntN(3600)) * time.Second)
		machine := largeNames[i%len(largeNames)]
		if err := l.upkeep(t, machine); err != nil {
			return err
		}
		if err := l.run(t, int64(i+1), machine, largeResins[l.chance.IntN(len(largeResins))], largePieces[l.chance.IntN(len(largePieces))], i == l.size.Runs-1); err != nil {
			return err
		}
	}
	return nil
}

// upkeep changes a film that is worn and levels now and then.
func (l *mass) upkeep(t *store.Tx, machine string) error {
	tie := func(kind, note string) error {
		id, err := bench.NewID(l.clock.UnixMilli(), source{l.chance})
		if err != nil {
			return err
		}
		at := l.clock.Add(-time.Hour).UnixMilli()
		return t.SaveMachineEvent(bench.MachineEvent{ID: id, MachineID: l.machines[machine].Machine.ID, AtMS: at, Kinds: bench.IDs{kind}, Note: note, CreatedMS: at, Version: 1})
	}
	if l.film[machine] > 35000+10000*l.chance.Float64() {
		l.film[machine] = 0
		if err := tie("film", "worn"); err != nil {
			return err
		}
	}
	if l.clock.Sub(l.levelled[machine]) > 60*24*time.Hour {
		l.levelled[machine] = l.clock
		return tie("relevel", "")
	}
	return nil
}

// runsABottle is how many runs a bottle lasts.
const runsABottle = 15

// bottle is the one in use; when it is empty, the next is opened.
func (l *mass) bottle(t *store.Tx, resin string) (bench.Bottle, error) {
	if l.left[resin] > 0 {
		l.left[resin]--
		return l.open[resin], nil
	}
	if old, there := l.open[resin]; there {
		id, err := bench.NewID(l.clock.UnixMilli(), source{l.chance})
		if err != nil {
			return old, err
		}
		if err := t.SaveBottleEvent(bench.BottleEvent{ID: id, BottleID: old.ID, AtMS: l.clock.UnixMilli(), Kind: "emptied"}); err != nil {
			return old, err
		}
	}
	id, err := bench.NewID(l.clock.UnixMilli(), source{l.chance})
	if err != nil {
		return bench.Bottle{}, err
	}
	l.bought++
	opened, expires := l.clock.Format(time.DateOnly), l.clock.AddDate(1, 0, 0).Format(time.DateOnly)
	b := bench.Bottle{ID: id, Code: bench.Code("bottle", l.bought), Version: 1, CreatedMS: l.clock.UnixMilli(), ResinID: l.resins[resin].Resin.ID,
		Lot: fmt.Sprintf("LOT %04d", 1000+l.chance.IntN(9000)), OpenedOn: &opened, ExpiresOn: &expires}
	l.open[resin], l.left[resin] = b, runsABottle-1
	return b, t.SaveBottle(b)
}

func (l *mass) run(t *store.Tx, number int64, machine, resin, piece string, pending bool) error {
	e, b, card := l.estimates[machine+resin+piece], behaviours[machine], l.pieces[piece]
	id, err := bench.NewID(l.clock.UnixMilli(), source{l.chance})
	if err != nil {
		return err
	}
	took := *e.TotalS * math.Exp(math.Log(1.02)+l.noise(0.02))
	p := quantity.Ptr[float64]
	room := round(21+3*math.Sin(float64(l.season())/58)+l.noise(0.8)+b.roomC, 0.1)
	bottle, err := l.bottle(t, resin)
	if err != nil {
		return err
	}
	profile := l.profiles[machine+resin]
	r := bench.Run{
		ID: id, Code: bench.Code("run", number), Version: 1, CreatedMS: l.clock.UnixMilli(), MachineID: l.machines[machine].Machine.ID, ResinID: l.resins[resin].Resin.ID,
		BottleID: &bottle.ID, ProfileID: profile.ID, Copies: int64(l.size.Specimens), StartedMS: l.clock.UnixMilli(),
		EndedMS: quantity.Ptr(l.clock.Add(time.Duration(took * float64(time.Second))).UnixMilli()), Software: quantity.Ptr("Carver 1.4"),
		SoftwareEstimateS: p(math.Round(took / b.biasFactor * math.Exp(l.noise(0.03)))), OurEstimateS: e.TotalS, LightOnS: e.LightOnS, Layers: e.Layers, EstimateModel: e.Model,
		ResinUsedG: p(round(60+l.noise(5), 0.1)), AttendedMin: p(18), RoomTempC: &room, ResinTempC: p(round(room+2.5+l.noise(0.5), 0.1)), FilmClouded: quantity.Ptr(false),
		Orientation: quantity.Ptr("upright"), EndedHow: bench.EndFinished, AreaMM2: &e.Job.AreaMM2, OutlineMM: &e.Job.OutlineMM, Job: machine + resin + piece,
		Supports: quantity.Ptr("set A, tip 0.3 mm"), WashS: p(180), CureS: p(120), Surface: quantity.Ptr("raw"),
	}
	r.Wear()
	if err := t.SaveRun(r); err != nil {
		return err
	}
	wear := l.film[machine] / 45000
	l.film[machine] += float64(e.Layers)
	return l.specimens(t, r, card, machine, b, wear, pending)
}

// specimens stand in a grid of five columns.
func (l *mass) specimens(t *store.Tx, r bench.Run, card kit.PieceCard, machine string, b behaviour, wear float64, pending bool) error {
	m := l.machines[machine].Machine
	const columns = 5
	rows := (l.size.Specimens + columns - 1) / columns
	var made []bench.Specimen
	for n := range l.size.Specimens {
		id, err := bench.NewID(r.StartedMS, source{l.chance})
		if err != nil {
			return err
		}
		x := m.WidthMM * (float64(n%columns) + 0.5) / columns
		y := m.DepthMM * (float64(n/columns) + 0.5) / float64(rows)
		s := bench.Specimen{ID: id, RunID: r.ID, Copy: int64(n + 1), Code: bench.SpecimenCode(r.Code, int64(n+1)), Outcome: "whole", PieceID: card.Piece.ID, ScalePct: 100, Version: 1,
			XMM: &x, YMM: &y, TurnDeg: quantity.Ptr(0.0)}
		if pending {
			s.Outcome = "pending"
		} else {
			if err := l.judge(&s, b.failChance*(0.4+wear)*placeFactor(machine, x/m.WidthMM, y/m.DepthMM)); err != nil {
				return err
			}
		}
		s.Weigh()
		if err := t.SaveSpecimen(s); err != nil {
			return err
		}
		made = append(made, s)
		if s.SetAside() || !s.Judged() {
			continue
		}
		if err := l.readings(t, r, s, card, b); err != nil {
			return err
		}
	}
	tallies := bench.TallyOf(made)
	for _, tally := range tallies {
		if err := t.SaveTally(tally); err != nil {
			return err
		}
	}
	r.Shape = bench.CountsOf(tallies).Shape()
	return t.SaveRun(r)
}

// placeFactor is how much likelier a copy fails at a place of the plate.
func placeFactor(machine string, x, y float64) float64 {
	switch machine {
	case "Tern Mini": // it leans to the left
		return 2 * (1 - x)
	case "Harrow 6 by the window": // one spot of its panel is weak
		if x > 0.6 && x < 0.8 && y < 0.3 {
			return 6
		}
		return 0.7
	}
	return 1
}

func (l *mass) judge(s *bench.Specimen, chance float64) error {
	draw := l.chance.Float64()
	d := bench.Defect{Origin: "printed", AtMS: l.clock.UnixMilli()}
	switch {
	case draw < chance:
		s.Outcome, d.Symptom, d.Fault, d.Severity = "lost", bench.Symptoms[l.chance.IntN(5)], "machine", "grave"
		if l.chance.IntN(4) == 0 {
			d.Fault = "operator"
		}
	case draw < 2*chance:
		s.Outcome, d.Symptom, d.Fault, d.Severity = "micro_defect", "thin part missing", "unknown", "slight"
	default:
		return nil
	}
	var err error
	d.ID, err = bench.NewID(l.clock.UnixMilli(), source{l.chance})
	s.Defects = []bench.Defect{d}
	return err
}

func (l *mass) readings(t *store.Tx, r bench.Run, s bench.Specimen, card kit.PieceCard, b behaviour) error {
	left := l.size.Readings
	for left > 0 {
		for _, f := range card.Features {
			for _, reading := range l.read(s, f, b) {
				if left == 0 {
					return nil
				}
				id, err := bench.NewID(r.StartedMS, source{l.chance})
				if err != nil {
					return err
				}
				reading.ID, reading.RecordedMS = id, *r.EndedMS+int64(1000*(l.size.Readings-left))
				if err := t.SaveReading(reading); err != nil {
					return err
				}
				left--
			}
		}
	}
	return nil
}

// newScene is an empty scene whose story begins some time before now.
func newScene(ctx context.Context, s *store.Store, now time.Time, before time.Duration) *scene {
	ends := lastNight(now)
	d := &scene{
		ctx: ctx, judging: true, present: now, now: ends, clock: ends.Add(-before), chance: rand.New(rand.NewPCG(seed, seed)),
		machines: map[string]kit.MachineCard{}, resins: map[string]kit.ResinCard{}, bottles: map[string]bench.Bottle{},
		pieces: map[string]kit.PieceCard{}, profiles: map[string]bench.Profile{}, laid: map[string]planning.PlateSheet{}, met: map[string]bool{},
	}
	// Ids have chance of their own: one entry more changes no number of the entries after it.
	d.work = work.New(s, func() time.Time { return d.clock }, source{rand.New(rand.NewPCG(seed, seed+1))})
	return d
}

// endsAtH is the hour of the night at which the story ends, and lastDay the day of the year that it takes its last day for.
// Both are arbitrary, and fixed: the story and its rooms' temperatures follow from them.
const endsAtH, lastDay = 2, 332

// lastNight is the last such hour before an instant, in the time that its place keeps then. The story is told in days before
// it, of 24 hours each and without regard to summer time, so that it is the same at whatever instant it is told.
func lastNight(now time.Time) time.Time {
	name, offset := now.Zone()
	now = now.In(time.FixedZone(name, offset))
	night := time.Date(now.Year(), now.Month(), now.Day(), endsAtH, 0, 0, 0, now.Location())
	if night.After(now) {
		return night.Add(-24 * time.Hour)
	}
	return night
}

// season is the day of the story's year. The rooms' temperatures go by it, and not by the season in which the demo is looked at.
func (d *scene) season() int {
	midnight := d.now.Add(-endsAtH * time.Hour)
	return lastDay + int(math.Floor(d.clock.Sub(midnight).Hours()/24))
}

// day is a day of the calendar, so many days after the end of the story.
func (d *scene) day(after int) string { return d.now.AddDate(0, 0, after).Format(time.DateOnly) }
