package planning

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/core/timing"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
)

// Estimate is our own time for a print, with the model that gave it. Seconds
// are nil, with a reason, where something that the model needs is not known.
// Job is what the print holds; Interval is the 95 % prediction interval, nil
// where nothing tells it.
type Estimate struct {
	TotalS     *float64           `json:"total_s"`
	Interval   *quantity.Interval `json:"interval"`
	LightOnS   *float64           `json:"light_on_s"`
	LayerS     *float64           `json:"layer_s"`
	Layers     int64              `json:"layers"`
	Model      string             `json:"model" enum:"timing/masked,timing/laser,learned,none"`
	Reason     string             `json:"reason"`
	Job        timing.Job         `json:"job"`
	EachLayerS []float64          `json:"-"`
}

// The models that compute a time from settings.
const (
	modelMasked = "timing/masked"
	modelLaser  = "timing/laser"
)

// PlateLoad is copies of a piece on a plate.
type PlateLoad struct {
	Piece  bench.Piece
	Scale  float64
	Copies int64
}

// solidML is what one copy takes in solid resin: the piece less what it is
// hollowed by, its supports and its raft.
func (l PlateLoad) solidML() float64 {
	k := l.Scale * l.Scale * l.Scale
	return k * (max(0, l.Piece.VolumeML-l.Piece.HollowML)*(1+l.Piece.SupportPct/100) + l.Piece.SupportML + l.Piece.RaftML)
}

// allowance is by how much supports, raft and hollowing change what a slice of
// the piece alone holds.
func (l PlateLoad) allowance() float64 {
	if l.Piece.VolumeML <= 0 {
		return 1
	}
	return l.solidML() / (l.Piece.VolumeML * l.Scale * l.Scale * l.Scale)
}

// PlateLayers adds up the slices of all copies, with their allowances. Cutting
// stops when the one who asked has gone.
func (w *Tasks) PlateLayers(t *store.Tx, loads []PlateLoad, layerUM float64) ([]mesh.Layer, error) {
	var out []mesh.Layer
	for _, l := range loads {
		layers, err := w.Kit.Slices(t.Context(), l.Piece, layerUM, l.Scale)
		if err != nil {
			return nil, err
		}
		for len(out) < len(layers) {
			out = append(out, mesh.Layer{})
		}
		n, allowance := float64(l.Copies), l.allowance()
		for i, s := range layers {
			out[i].AreaMM2 += n * s.AreaMM2 * allowance
			out[i].PerimeterMM += n * s.PerimeterMM
		}
	}
	return out, nil
}

// JobOf is what loads hold, layer by layer together.
func (w *Tasks) JobOf(t *store.Tx, loads []PlateLoad, layerUM float64) (timing.Job, error) {
	layers, err := w.PlateLayers(t, loads, layerUM)
	return jobOf(layers), err
}

func jobOf(layers []mesh.Layer) timing.Job {
	job := timing.Job{Layers: int64(len(layers))}
	for _, l := range layers {
		job.AreaMM2 += l.AreaMM2
		job.OutlineMM += l.PerimeterMM
	}
	return job
}

// Estimate computes our time for what lies on a plate: by the tallest piece on
// a masked machine, by every slice on a laser, and by what the machine's own
// runs taught where its settings are sealed.
func (w *Tasks) Estimate(t *store.Tx, m bench.Machine, p bench.Profile, loads []PlateLoad) (Estimate, []mesh.Layer, error) {
	past, err := PastOf(t, m.ID, p, JobKey(p.LayerUM, loads), w.NowMS())
	if err != nil {
		return Estimate{}, nil, err
	}
	return w.estimate(t, m, p, loads, past)
}

// estimate is Estimate from prints that are known already.
func (w *Tasks) estimate(t *store.Tx, m bench.Machine, p bench.Profile, loads []PlateLoad, past []timing.Past) (Estimate, []mesh.Layer, error) {
	layers, err := w.PlateLayers(t, loads, p.LayerUM)
	if err != nil {
		return Estimate{}, nil, err
	}
	out := Estimate{Layers: int64(len(layers)), Model: "none", Job: jobOf(layers)}
	switch {
	case m.LightEngine == bench.Laser:
		err = out.laser(m, layers)
	case p.ExposureS == nil || p.BottomExposureS == nil:
		err = learn(t, m, p, past, &out)
	default:
		err = out.masked(m, p)
	}
	for _, l := range loads {
		if !w.Store.Meshes().Has(l.Piece.MeshSHA256) {
			out.Reason = strings.TrimSpace(out.Reason + " The mesh file of " + l.Piece.Name + " is missing, so a plain block of its volume stands in for its slices; restore it from a backup.")
		}
	}
	return out, layers, err
}

func (e *Estimate) laser(m bench.Machine, layers []mesh.Layer) error {
	in := timing.LaserInput{
		Layers: e.Layers, AreaMM2Total: e.Job.AreaMM2, PerimeterMMTotal: e.Job.OutlineMM, Copies: 1, HatchMM: *m.HatchMM, HatchMMS: *m.HatchMMS,
		ContourPasses: *m.ContourPasses, ContourMMS: *m.ContourMMS, SettleS: *m.SettleS, StartS: &m.StartS, EndS: &m.EndS,
	}
	res, err := timing.Laser(in)
	if err != nil {
		return err
	}
	e.TotalS, e.LightOnS, e.LayerS, e.Model = &res.TotalS, &res.LightOnS, &res.LayerS, modelLaser
	for _, l := range layers {
		in.Layers, in.AreaMM2Total, in.PerimeterMMTotal = 1, l.AreaMM2, l.PerimeterMM
		one, err := timing.Laser(in)
		if err != nil {
			return err
		}
		e.EachLayerS = append(e.EachLayerS, one.LayerS)
	}
	return nil
}

// MaskedInputOf is a print of so many layers as its machine and settings tell it; both
// exposures of the settings must be known.
func MaskedInputOf(m bench.Machine, p bench.Profile, layers int64, exposureS float64) timing.MaskedInput {
	transition := quantity.Or(p.TransitionLayers, 0)
	return timing.MaskedInput{
		HeightMM: float64(layers) * p.LayerUM / 1000, LayerUM: p.LayerUM, Bottom: timing.Bottom{Layers: quantity.Or(p.BottomLayers, 0), ExposureS: *p.BottomExposureS},
		TransitionLayers: &transition, ExposureS: exposureS, Lift: p.Lift, Retract: p.Retract, ReleaseS: p.ReleaseS,
		Wait:   &timing.Wait{BeforeExposureS: p.WaitBeforeS, AfterExposureS: p.WaitAfterS, AfterLiftS: p.WaitLiftS},
		StartS: &m.StartS, EndS: &m.EndS,
	}
}

func (e *Estimate) masked(m bench.Machine, p bench.Profile) error {
	in := MaskedInputOf(m, p, e.Layers, *p.ExposureS)
	res, err := timing.Masked(in)
	if err != nil {
		return err
	}
	e.TotalS, e.LightOnS, e.LayerS, e.Model = &res.TotalS, &res.LightOnS, &res.LayerS, modelMasked
	e.EachLayerS, err = timing.MaskedLayers(in)
	return err
}

// learn asks the machine's own finished, real prints since it became the set-up that
// it is: those of the same plate, else of the same settings, else those with hidden
// settings of the same layer height.
func learn(t *store.Tx, m bench.Machine, p bench.Profile, past []timing.Past, e *Estimate) error {
	e.Reason = fmt.Sprintf("The settings %q hide their exposures; their time can be learned once a print with them has an end time.", p.SealedName)
	hidden, err := hiddenSettings(t, m.ID, p.LayerUM)
	if err != nil {
		return err
	}
	past = slices.DeleteFunc(slices.Clone(past), func(x timing.Past) bool {
		return x.Job == nil || (!x.SameJob && !x.SameSettings && !hidden[x.Settings])
	})
	chosen, from := timing.LearnFrom(past)
	if len(chosen) == 0 {
		return nil
	}
	in := timing.LearnedInput{Job: &e.Job, Whole: m.LightEngine != bench.Laser}
	for _, x := range chosen {
		in.Runs = append(in.Runs, timing.JobTime{Job: *x.Job, ActualS: x.ActualS})
	}
	res, err := timing.Learned(in)
	if err != nil || res.TotalS == nil {
		return err
	}
	e.TotalS, e.Interval, e.Model = res.TotalS, res.TotalPI, "learned"
	e.LayerS = quantity.Ptr(*res.TotalS / float64(e.Layers))
	e.Reason = learnedWords(res, from)
	for range e.Layers {
		e.EachLayerS = append(e.EachLayerS, *e.LayerS)
	}
	return nil
}

func learnedWords(res timing.LearnedResult, from string) string {
	words := fmt.Sprintf("Learned from %s %s:", say.Counted(res.N, "print"), from)
	for i, term := range res.Terms {
		if i > 0 {
			words += " +"
		}
		words += fmt.Sprintf(" %s %s × %s", say.Figure(term.Value), term.Unit, term.Name)
	}
	if res.MissPct != nil {
		words += fmt.Sprintf("; each print was missed by about %s %% when the others foretold it", say.Figures(*res.MissPct, 2))
	}
	words += "."
	for _, warning := range res.Warnings.Warnings {
		words += " " + warning.Message
	}
	return words
}

// hiddenSettings are the settings of a machine, at a layer height, that hide their
// exposures.
func hiddenSettings(t *store.Tx, machineID string, layerUM float64) (map[string]bool, error) {
	profiles, err := t.Profiles()
	out := map[string]bool{}
	for _, p := range profiles {
		out[p.ID] = p.MachineID == machineID && p.ExposureS == nil && p.Basis != bench.BasisSeries && quantity.Equal(p.LayerUM, layerUM)
	}
	return out, err
}

// PastOf lists what a time is learned from: the finished, real prints of a machine since
// the last knot that parts set-ups, with how near each is to the print asked about.
// One whose settings were changed while it printed is none of its settings.
func PastOf(t *store.Tx, machineID string, p bench.Profile, job string, nowMS int64) (out []timing.Past, err error) {
	history, err := kit.HistoryOf(t, machineID)
	if err != nil {
		return nil, err
	}
	since := int64(0)
	if k := history.PartedAt(nowMS); k != nil {
		since = k.AtMS
	}
	runs, err := t.TimesOfMachine(machineID)
	for _, r := range runs {
		took := r.TookS()
		if took == nil || r.StartedMS < since || r.DialChanged {
			continue
		}
		past := timing.Past{RunID: r.ID, ActualS: *took, Settings: r.ProfileID, SameSettings: r.ProfileID == p.ID, SameJob: r.ProfileID == p.ID && job != "" && r.Job == job,
			OursS: r.OurEstimateS, Model: r.EstimateModel, SoftwareS: r.SoftwareEstimateS, Software: quantity.Or(r.Software, "")}
		if r.AreaMM2 != nil && r.OutlineMM != nil {
			past.Job = &timing.Job{Layers: r.Layers, AreaMM2: *r.AreaMM2, OutlineMM: *r.OutlineMM}
		}
		out = append(out, past)
	}
	return out, err
}

// JobKey names what a print holds at a layer height: the same pieces, scales, copies
// and allowances have the same key.
func JobKey(layerUM float64, loads []PlateLoad) string {
	lines := make([]string, len(loads))
	for i, l := range loads {
		lines[i] = fmt.Sprintf("%s %s %d %s", l.Piece.MeshSHA256, say.Figures(l.Scale, 6), l.Copies, say.Figures(l.allowance(), 6))
	}
	slices.Sort(lines)
	sum := sha256.Sum256(fmt.Appendf(nil, "%s %s", say.Figures(layerUM, 6), strings.Join(lines, " ")))
	return hex.EncodeToString(sum[:8])
}

// RunLoads is what a run printed: its specimens by piece and scale.
func RunLoads(t *store.Tx, runID string) ([]PlateLoad, error) {
	specimens, err := t.SpecimensOfRun(runID)
	if err != nil {
		return nil, err
	}
	return LoadsOfSpecimens(t.Piece, specimens)
}

// LoadsOfSpecimens gathers specimens by piece and scale.
func LoadsOfSpecimens(pieceOf func(string) (bench.Piece, error), specimens []bench.Specimen) ([]PlateLoad, error) {
	placements := make([]bench.Placement, len(specimens))
	for i, s := range specimens {
		placements[i] = bench.Placement{PieceID: s.PieceID, ScalePct: s.ScalePct}
	}
	return LoadsOf(pieceOf, placements)
}

// ShareOf is the part of what a plate holds, by volume, that is one piece; 1 where no
// piece is named.
func ShareOf(loads []PlateLoad, pieceID string) float64 {
	var part, all float64
	for _, l := range loads {
		ml := float64(l.Copies) * l.solidML()
		all += ml
		if l.Piece.ID == pieceID || pieceID == "" {
			part += ml
		}
	}
	if all <= 0 {
		return 1
	}
	return part / all
}

// LoadsOf gathers placements by piece and scale.
func LoadsOf(pieceOf func(string) (bench.Piece, error), placements []bench.Placement) ([]PlateLoad, error) {
	type key struct {
		piece string
		scale float64
	}
	var out []PlateLoad
	index := map[key]int{}
	for _, p := range placements {
		k := key{p.PieceID, p.ScalePct}
		if _, known := index[k]; !known {
			piece, err := pieceOf(p.PieceID)
			if err != nil {
				return nil, err
			}
			index[k] = len(out)
			out = append(out, PlateLoad{Piece: piece, Scale: p.ScalePct / 100})
		}
		out[index[k]].Copies++
	}
	return out, nil
}

// EstimateRun computes our time for a piece with a profile before it is
// printed.
func (w *Tasks) EstimateRun(ctx context.Context, profileID, pieceID string, copies int64, scalePct float64) (out Estimate, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		p, err := t.Profile(profileID)
		if err != nil {
			return err
		}
		m, err := t.Machine(p.MachineID)
		if err != nil {
			return err
		}
		piece, err := t.Piece(pieceID)
		if err != nil {
			return err
		}
		out, _, err = w.Estimate(t, m, p, []PlateLoad{{piece, scalePct / 100, copies}})
		return err
	})
	return out, err
}
