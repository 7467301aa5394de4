// Package diagnosis ranks the likely causes of what went wrong with a print, from what the record
// knows of it and from how remedies fared, and keeps what was tried.
package diagnosis

import (
	"context"
	"math"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/diagnose"
	"ojime/internal/core/machine"
	"ojime/internal/core/preflight"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
	"ojime/internal/work/upkeep"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	upkeep   *upkeep.Tasks
	planning *planning.Tasks
}

// New makes them.
func New(base *task.Base, u *upkeep.Tasks, p *planning.Tasks) *Tasks { return &Tasks{base, u, p} }

// Diagnosis is the causes of a symptom on a run, ranked, what was tried against it on this
// run, and how faults of this symptom fared over the record with and without a remedy.
type Diagnosis struct {
	Symptom string               `json:"symptom"`
	Result  diagnose.Result      `json:"result"`
	Tried   []upkeep.TriedRemedy `json:"tried"`
	Fared   *diagnose.Fared      `json:"fared" required:"false"`
}

// Diagnose ranks likely causes of a symptom from the conditions of a run, and
// from how remedies fared in this record.
func (w *Tasks) Diagnose(ctx context.Context, runID, symptom string) (out Diagnosis, err error) {
	at := w.Store.Changes()
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		faults, err := w.upkeep.FaultsAt(t, at)
		if err != nil {
			return err
		}
		out, err = w.diagnosis(t, faults, runID, symptom)
		return err
	})
	return out, err
}

func (w *Tasks) diagnosis(t *store.Tx, faults *upkeep.FaultRecord, runID, symptom string) (Diagnosis, error) {
	out := Diagnosis{Symptom: symptom}
	in := diagnose.Input{Symptom: symptom}
	r, err := t.Run(runID)
	if err != nil {
		return out, err
	}
	if out.Tried, err = faults.TriedOn(t, func(id string) bool { return id == runID }); err != nil {
		return out, err
	}
	out.Tried = slices.DeleteFunc(out.Tried, func(v upkeep.TriedRemedy) bool { return v.Symptom != symptom })
	courses := faults.All()
	in.Judged, in.Helped = diagnose.Hits(courses)
	courses = slices.DeleteFunc(courses, func(c diagnose.Course) bool { return c.Symptom != symptom })
	in.Tried = diagnose.Confirmed(courses)
	fared, err := diagnose.Fare(courses)
	if err != nil {
		return out, err
	}
	if len(fared) > 0 {
		out.Fared = &fared[0]
	}
	if in.Conditions, err = w.conditionsOf(t, runID, symptom); err != nil {
		return out, err
	}
	if in.Quirks, err = quirkFaults(t, r.MachineID, symptom, faults.Prints[r.MachineID]); err != nil {
		return out, err
	}
	out.Result, err = diagnose.Rank(in)
	return out, err
}

// quirkFaults are the faults of a symptom that the machine's card names, counted over
// its judged prints.
func quirkFaults(t *store.Tx, machineID, symptom string, prints []diagnose.JudgedPrint) (out []diagnose.Quirk, err error) {
	m, err := t.Machine(machineID)
	if err != nil {
		return nil, err
	}
	for _, q := range m.QuirkFaults {
		if q.Symptom != symptom {
			continue
		}
		fault := diagnose.Quirk{Text: q.Text, Workaround: q.Workaround}
		if q.SinceMS != nil {
			fault.With = &diagnose.Faults{}
		}
		for _, p := range prints {
			count := &fault.Without
			if q.SinceMS != nil && p.AtMS >= *q.SinceMS {
				count = fault.With
			}
			count.Of++
			if slices.Contains(p.Symptoms, symptom) {
				count.Were++
			}
		}
		out = append(out, fault)
	}
	return out, nil
}

// conditionsOf reads what the record knows of a run; the rest stays nil.
func (w *Tasks) conditionsOf(t *store.Tx, runID, symptom string) (c diagnose.Conditions, err error) {
	r, err := t.Run(runID)
	if err != nil {
		return c, err
	}
	m, err := t.Machine(r.MachineID)
	if err != nil {
		return c, err
	}
	p, err := t.Profile(r.ProfileID)
	if err != nil {
		return c, err
	}
	history, err := kit.HistoryOf(t, m.ID)
	if err != nil {
		return c, err
	}
	condition := history.At(r.StartedMS)
	c.ResinTempC, c.FilmClouded, c.DaysSinceLevel, c.MovedSinceLevel = r.ResinTempC, r.FilmClouded, condition.Level.Days, condition.Level.Moved
	c.Calibrated = quantity.Ptr(p.Basis == "calibrated")
	c.FilmShare, c.LightShare = shareOf(condition.Film, m.FilmLifeLayers), shareOf(condition.Light, m.LightLifeH)
	if at := history.Last("surroundings", quantity.Or(r.EndedMS, r.StartedMS)); at != nil {
		c.Surroundings = quantity.Ptr(*at >= r.StartedMS-aroundMS)
	}
	if len(p.Lift) > 0 && p.ReleaseS == nil {
		c.LiftMMMin = quantity.Ptr(p.Lift[0].MMMin)
	}
	if c.ExposureRatio, err = kit.ExposureRatio(t, p); err != nil {
		return c, err
	}
	if err := bottleConditions(t, r, &c); err != nil {
		return c, err
	}
	if err := lightConditions(t, r, m, symptom, &c); err != nil {
		return c, err
	}
	if err := machineConditions(t, r, m, &c); err != nil {
		return c, err
	}
	return c, w.shapeConditions(t, r, m, p, &c)
}

// aroundMS is for how long before a print something in its surroundings counts.
const aroundMS = 24 * 60 * 60 * 1000

// shareOf is the share of a stated life that a part has seen; nil where that cannot be
// known.
func shareOf(w machine.Wear, life *float64) *float64 {
	if w.Amount == nil || life == nil {
		return nil
	}
	return quantity.Ptr(*w.Amount / *life)
}

func bottleConditions(t *store.Tx, r bench.Run, c *diagnose.Conditions) error {
	if r.BottleID == nil {
		return nil
	}
	b, err := t.Bottle(*r.BottleID)
	if err != nil {
		return err
	}
	age := machine.BottleAt(b.OpenedOn, b.ExpiresOn, r.StartedMS)
	c.BottleAgeDays, c.BottleExpired = age.AgeDays, age.Expired()
	return nil
}

// lightConditions tell what the copies that show a symptom lay on: how much light there was, and whether a
// spot known as dead or weak lay under one.
func lightConditions(t *store.Tx, r bench.Run, m bench.Machine, symptom string, c *diagnose.Conditions) error {
	lights, err := kit.LightsOf(t, m.ID)
	if err != nil {
		return err
	}
	specimens, err := t.SpecimensOfRun(r.ID)
	if err != nil {
		return err
	}
	shows := func(d bench.Defect) bool { return d.Symptom == symptom }
	specimens = slices.DeleteFunc(specimens, func(s bench.Specimen) bool { return !slices.ContainsFunc(s.Counting(), shows) })
	there, err := lights.Under(m, r.StartedMS, specimens)
	if err != nil {
		return err
	}
	if there != nil {
		c.LightAtPct = &there.LeastPct
	}
	sizes := map[string]float64{}
	for _, s := range specimens {
		p, err := t.Piece(s.PieceID)
		if err != nil {
			return err
		}
		sizes[s.ID] = min(p.SizeXMM, p.SizeYMM) * s.ScalePct / 100
	}
	c.OverSpot = lights.OverSpot(r.StartedMS, specimens, func(s bench.Specimen) float64 { return sizes[s.ID] })
	return nil
}

// restartCondition counts the prints before this one in the machine's own session,
// which begins when it is switched on; without a feed that is not known.
func restartCondition(t *store.Tx, r bench.Run, c *diagnose.Conditions) error {
	feed, err := t.FeedOfRun(r.ID)
	if task.IsMissing(err) {
		return nil
	}
	if err != nil {
		return err
	}
	n, err := t.RunsInSession(feed.DeviceID, feed.Session, feed.Seq)
	c.RunsSinceStart = &n
	return err
}

// machineConditions follow from the runs and knots before this one.
func machineConditions(t *store.Tx, r bench.Run, m bench.Machine, c *diagnose.Conditions) error {
	if err := restartCondition(t, r, c); err != nil {
		return err
	}
	last, err := t.RunsBefore(r, 1)
	if err != nil || len(last) == 0 {
		return err
	}
	if last[0].Software != nil && r.Software != nil {
		c.SoftwareNew = quantity.Ptr(*last[0].Software != *r.Software)
	}
	plate, err := printing.PlateOfRun(t, r)
	if err != nil {
		return err
	}
	facts, err := printing.PreflightFacts(t, r, m, plate)
	if err != nil {
		return err
	}
	c.DebrisLikely = preflight.DebrisLikely(facts)
	return nil
}

// shapeConditions come from the slices of what was printed.
func (w *Tasks) shapeConditions(t *store.Tx, r bench.Run, m bench.Machine, p bench.Profile, c *diagnose.Conditions) error {
	loads, err := planning.RunLoads(t, r.ID)
	if err != nil {
		return err
	}
	layers, err := w.planning.PlateLayers(t, loads, p.LayerUM)
	if err != nil {
		return err
	}
	var liquid, largest float64
	for _, l := range layers {
		largest = math.Max(largest, l.AreaMM2)
		liquid += l.AreaMM2 * p.LayerUM / 1e6
	}
	c.LargestMM2 = &largest
	for _, l := range loads {
		hollow := l.Piece.HollowWallMM != nil || quantity.Or(c.Hollow, false)
		c.Hollow = &hollow
		c.SupportPct = quantity.Ptr(math.Max(quantity.Or(c.SupportPct, 0), l.Piece.SupportPct))
		if d := l.Piece.Geometry.Difficulty; d != nil {
			c.Islands = quantity.Ptr(max(quantity.Or(c.Islands, 0), d.IslandCount))
			if area := d.ContactMM2 * l.Scale * l.Scale; c.ContactMM2 == nil || area < *c.ContactMM2 {
				c.ContactMM2 = &area
			}
		}
	}
	if m.VatMaxML == nil {
		return nil
	}
	plate, err := printing.PlateOfRun(t, r)
	if err != nil {
		return err
	}
	happened, err := t.EventsOfRun(r.ID)
	if err != nil {
		return err
	}
	had := machine.VatFill(r.VatFillML, plate.VatFillML, *m.VatMaxML) - quantity.Or(m.VatDeadML, 0)
	for _, e := range happened {
		had += quantity.Or(e.ML, 0)
	}
	c.VatShort = quantity.Ptr(had < liquid*plate.LiquidRatio)
	return nil
}

// Try keeps what was tried against a symptom; the causes are ranked anew. What came of it
// is told by the prints that follow, not by what is typed.
func (w *Tasks) Try(ctx context.Context, runID string, r bench.Remedy) (out Diagnosis, err error) {
	if r.Symptom == "" {
		return out, quantity.Errorf("symptom", "is missing; say against what it was tried")
	}
	if r.Cause == "" {
		return out, quantity.Errorf("cause", "is missing; say which cause it was tried for")
	}
	if r.ID == "" {
		if r.ID, err = w.NewID(); err != nil {
			return out, err
		}
	}
	r.RunID, r.AtMS = runID, w.NowMS()
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		if err := t.SaveRemedy(r); err != nil {
			return err
		}
		faults, err := upkeep.Faults(t)
		if err != nil {
			return err
		}
		out, err = w.diagnosis(t, faults, runID, r.Symptom)
		return err
	})
	return out, err
}
