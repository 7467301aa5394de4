package printing

import (
	"context"
	"math"

	"ojime/internal/bench"
	"ojime/internal/core/machine"
	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/core/resin"
	"ojime/internal/core/timing"
	"ojime/internal/store"
	"ojime/internal/work/planning"
	"ojime/internal/work/task"
)

// LiveRun is a run from preflight to its end, as it stands now.
type LiveRun struct {
	State  string           `json:"state" enum:"recorded,prepared,printing,paused,stopped,finished"`
	NowMS  int64            `json:"now_ms"`
	Events []bench.RunEvent `json:"events"`
	Items  []PreflightItem  `json:"items"`
	// Open counts the items that must be answered before the start and are not; SkipReason
	// is why one was left out last.
	Open       int64              `json:"open"`
	SkipReason string             `json:"skip_reason"`
	Quirks     []Quirk            `json:"quirks"`
	RunningS   float64            `json:"running_s"`
	Live       *timing.LiveResult `json:"live"`
	EndsMS     *int64             `json:"ends_ms"`
	EndsPI     *[2]int64          `json:"ends_pi_ms"`
	Level      *resin.LevelResult `json:"level"`
	TopUpMS    *int64             `json:"top_up_ms"`
	// TopUpAfterS is how long it prints until the vat runs dry as it stands.
	TopUpAfterS *float64           `json:"top_up_after_s"`
	AddedML     float64            `json:"added_ml"`
	TimeFrom    string             `json:"time_from"`
	Reason      string             `json:"reason"`
	Predicted   *PredictionScore   `json:"predicted"`
	TotalPI     *quantity.Interval `json:"total_pi"`
	Layers      int64              `json:"layers"`
	// Feed is what the machine itself says, nil where nothing feeds this print;
	// FeedS is how long ago it last said so.
	Feed    *bench.RunFeed `json:"feed"`
	FeedS   *float64       `json:"feed_s"`
	FeedBy  string         `json:"feed_by"`
	SpeedUp *float64       `json:"speed_up"`
	Rooms   []RoomNow      `json:"rooms"`
}

// RoomNow is what a thermometer or meter said last, while it still speaks.
type RoomNow struct {
	Name  string  `json:"name"`
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
	AgoS  float64 `json:"ago_s"`
	// StandIn says that nothing was measured.
	StandIn bool `json:"stand_in"`
}

// PredictionScore is how a note before the print fared: Brier's score of the
// chance that something fails, 0 best and 1 worst; nil until the plate is judged.
type PredictionScore struct {
	What    string   `json:"what"`
	FailPct *float64 `json:"fail_pct"`
	Failed  *bool    `json:"failed"`
	Score   *float64 `json:"score"`
}

// Live reads where a run stands.
func (w *Tasks) Live(ctx context.Context, runID string) (out LiveRun, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = w.ReadLive(t, runID)
		return err
	})
	return out, err
}

// ReadLive is Live within a transaction.
func (w *Tasks) ReadLive(t *store.Tx, runID string) (LiveRun, error) {
	r, err := t.Run(runID)
	if err != nil {
		return LiveRun{}, err
	}
	events, err := t.EventsOfRun(runID)
	if err != nil {
		return LiveRun{}, err
	}
	out := LiveRun{State: bench.StateOf(r, events), NowMS: w.NowMS(), Events: events, Items: []PreflightItem{}, Quirks: []Quirk{}, SpeedUp: r.SpeedUp, Rooms: []RoomNow{}}
	out.RunningS = float64(bench.RunningMS(events, out.NowMS)) / 1000 * quantity.Or(r.SpeedUp, 1)
	if out.State == bench.Recorded {
		return out, nil
	}
	if err := out.listen(t, r); err != nil {
		return out, err
	}
	m, err := t.Machine(r.MachineID)
	if err != nil {
		return out, err
	}
	p, err := t.Profile(r.ProfileID)
	if err != nil {
		return out, err
	}
	if p, err = exposedFor(t, p, &r); err != nil {
		return out, err
	}
	loads, err := planning.RunLoads(t, r.ID)
	if err != nil {
		return out, err
	}
	e, layers, err := w.Planning.Estimate(t, m, p, loads)
	if err != nil {
		return out, err
	}
	plate, err := PlateOfRun(t, r)
	if err != nil {
		return out, err
	}
	if err := out.follow(t, m, p, r, plate, e, layers); err != nil {
		return out, err
	}
	out.Quirks = QuirksOf(m)
	if out.Items, err = w.preflight(t, r, m, plate, layers, p.LayerUM); err != nil {
		return out, err
	}
	for _, i := range out.Items {
		if i.Answer == "" && i.Must {
			out.Open++
		}
	}
	if out.SkipReason, err = t.LastSkipReason(); err != nil {
		return out, err
	}
	out.Predicted, err = scored(t, r)
	return out, err
}

// listen reads what the machine and the instruments in the room say now.
func (l *LiveRun) listen(t *store.Tx, r bench.Run) error {
	feed, err := t.FeedOfRun(r.ID)
	if err != nil && !task.IsMissing(err) {
		return err
	}
	if err == nil {
		l.Feed, l.FeedS = &feed, quantity.Ptr(math.Max(0, float64(l.NowMS-feed.AtMS)/1000))
		d, err := t.Device(feed.DeviceID)
		if err != nil {
			return err
		}
		l.FeedBy = d.Name
	}
	devices, err := t.Devices()
	if err != nil {
		return err
	}
	for _, d := range devices {
		aside := d.MachineID != nil && *d.MachineID != r.MachineID
		if d.RetiredMS != nil || aside || (d.Kind != "thermometer" && d.Kind != "noise_meter") {
			continue
		}
		last, err := t.MessagesOfDevice(d.ID, 1)
		if err != nil {
			return err
		}
		if len(last) == 1 && last[0].Value != nil && l.NowMS-last[0].ReceivedMS < speaksMS {
			l.Rooms = append(l.Rooms, RoomNow{d.Name, *last[0].Value, last[0].Unit, float64(l.NowMS-last[0].ReceivedMS) / 1000, d.StandIn})
		}
	}
	return nil
}

// speaksMS is for how long what an instrument said counts as now.
const speaksMS = 15 * 60 * 1000

// PlateOfRun is the run's plate, or the usual one for a run without.
func PlateOfRun(t *store.Tx, r bench.Run) (bench.Plate, error) {
	if r.PlateID == nil {
		plate := planning.UsualPlate()
		plate.Software, plate.SoftwareEstimateS = quantity.Or(r.Software, ""), r.SoftwareEstimateS
		return plate, nil
	}
	return t.Plate(*r.PlateID)
}

// follow says which layer it should be at, when it ends, and what the vat holds.
func (l *LiveRun) follow(t *store.Tx, m bench.Machine, p bench.Profile, r bench.Run, plate bench.Plate, e planning.Estimate, layers []mesh.Layer) error {
	past, err := planning.PastOf(t, m.ID, p, r.Job, r.StartedMS)
	if err != nil {
		return err
	}
	best, err := planning.TimeOfPlate(plate, e, past)
	if err != nil {
		return err
	}
	l.TimeFrom, l.Reason, l.TotalPI, l.Layers = best.BestFrom, e.Reason, best.BestPI, e.Layers
	if e.TotalS == nil || len(e.EachLayerS) == 0 {
		return nil
	}
	in := timing.LiveInput{LayerS: e.EachLayerS, StartS: m.StartS, ModelS: *e.TotalS, TotalS: best.BestS, TotalPI: best.BestPI, RunningS: l.RunningS}
	speed := quantity.Or(l.SpeedUp, 1)
	if l.Feed != nil && l.Feed.Layer != nil && (l.State == bench.Printing || l.State == bench.Paused) {
		in.Layer = l.Feed.Layer
		if l.State == bench.Printing {
			in.SinceLayerS = quantity.Ptr(math.Max(0, float64(l.NowMS-*l.Feed.LayerAtMS)/1000*speed))
		}
	}
	live, err := timing.Live(in)
	if err != nil {
		return err
	}
	l.Live = &live
	if l.State == bench.Printing {
		l.EndsMS = quantity.Ptr(l.NowMS + int64(1000*live.LeftS/speed))
		if live.LeftPI != nil {
			l.EndsPI = &[2]int64{l.NowMS + int64(1000*live.LeftPI[0]/speed), l.NowMS + int64(1000*live.LeftPI[1]/speed)}
		}
	}
	return l.vat(m, r, plate, e, layers, p.LayerUM)
}

func (l *LiveRun) vat(m bench.Machine, r bench.Run, plate bench.Plate, e planning.Estimate, layers []mesh.Layer, layerUM float64) error {
	for _, event := range l.Events {
		if event.Kind == "top_up" {
			l.AddedML += quantity.Or(event.ML, 0)
		}
	}
	if m.VatMaxML == nil {
		return nil
	}
	in := resin.LevelInput{Layer: l.Live.Layer, FillML: machine.VatFill(r.VatFillML, plate.VatFillML, *m.VatMaxML), DeadML: quantity.Or(m.VatDeadML, 0), MaxML: *m.VatMaxML, AddedML: l.AddedML}
	for _, s := range layers {
		in.LayersML = append(in.LayersML, s.AreaMM2*layerUM/1e6*plate.LiquidRatio)
	}
	level, err := resin.Level(in)
	if err != nil {
		return err
	}
	l.Level = &level
	if level.DryLayer != nil {
		until := m.StartS
		for _, s := range e.EachLayerS[:*level.DryLayer-1] {
			until += s
		}
		planned := l.Live.LeftS + l.RunningS
		l.TopUpAfterS = quantity.Ptr(until * planned / *e.TotalS)
		if l.State == bench.Printing {
			l.TopUpMS = quantity.Ptr(l.NowMS + int64(1000*math.Max(0, *l.TopUpAfterS-l.RunningS)/quantity.Or(l.SpeedUp, 1)))
		}
	}
	return nil
}
