package timing

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/mat"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
	"ojime/internal/say"
)

// Job is what a print holds, as far as a machine that hides its settings lets
// one know: layers, solid area in mm² and outline in mm, summed over layers and
// copies.
type Job struct {
	Layers    int64   `json:"layers"`
	AreaMM2   float64 `json:"area_mm2"`
	OutlineMM float64 `json:"outline_mm"`
}

// JobTime is a job and the seconds it took.
type JobTime struct {
	Job
	ActualS float64 `json:"actual_s"`
}

// LearnedInput needs at least one run; Job asks for a time. Whole says that the machine exposes a layer at once, as panels and
// projectors do: a layer then takes as long however full it is, so area and outline enter no term.
type LearnedInput struct {
	Runs  []JobTime `json:"runs"`
	Job   *Job      `json:"job,omitempty"`
	Whole bool      `json:"whole,omitempty"`
}

// Term is one term of the model: its name (start, layer, area, outline), its
// coefficient >= 0 and the unit of that.
type Term struct {
	Name  string  `json:"name"`
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
}

// LearnedResult is the model and how far it misses. MissPct is the root mean
// square, in per cent, of each run's time against a model that was learned from
// all the others; nil with fewer than two runs. TotalS is the time of the job
// asked for, TotalPI its 95 % prediction interval from those misses.
type LearnedResult struct {
	Terms   []Term             `json:"terms"`
	N       int64              `json:"n"`
	MissPct *float64           `json:"miss_pct"`
	TotalS  *float64           `json:"total_s"`
	TotalPI *quantity.Interval `json:"total_pi"`
	quantity.Warnings
}

// candidate is a model by the columns it uses, and how many runs it takes to
// carry it: two and more for each term.
type candidate struct {
	columns []int
	runs    int
}

// layerColumn is the place of a job's layers among its columns; area and outline come after it.
const layerColumn = 1

var candidates = []candidate{{[]int{1}, 1}, {[]int{0, 1}, 4}, {[]int{1, 2}, 4}, {[]int{0, 1, 2}, 6}, {[]int{0, 1, 2, 3}, 9}}

var termNames = [4]Term{{Name: "start", Unit: "s"}, {Name: "layer", Unit: "s"}, {Name: "area", Unit: "s/mm²"}, {Name: "outline", Unit: "s/mm"}}

// Learned fits time = c0 + c1·layers + c2·area + c3·outline with all terms >= 0
// (Lawson & Hanson 1974), each run weighted by 1/time so that a long print does
// not outvote the short ones. Of the models that the runs can carry it takes
// the one that misses least when each run is left out in turn. It warns
// few_runs below 4 runs and extrapolated when the job lies outside the runs.
func Learned(in LearnedInput) (LearnedResult, error) {
	var c quantity.Checks
	if len(in.Runs) == 0 {
		c.Fail("runs", "are empty; at least one finished run is needed")
	}
	check := func(at string, j Job) {
		c.CountAbove(at+"layers", j.Layers)
		c.NotBelow(at+"area_mm2", j.AreaMM2)
		c.NotBelow(at+"outline_mm", j.OutlineMM)
	}
	for i, r := range in.Runs {
		at := fmt.Sprintf("runs[%d].", i)
		check(at, r.Job)
		c.Above(at+"actual_s", r.ActualS)
	}
	if in.Job != nil {
		check("job.", *in.Job)
	}
	if c.Err() != nil {
		return LearnedResult{}, c.Err()
	}
	out := LearnedResult{Terms: []Term{}, N: int64(len(in.Runs)), Warnings: quantity.None()}
	coefficients, misses := choose(in.Runs, in.Whole)
	for i, v := range coefficients {
		if v > 0 {
			term := termNames[i]
			term.Value = v
			out.Terms = append(out.Terms, term)
		}
	}
	if len(in.Runs) < candidates[1].runs {
		out.Warn("few_runs", "%s seconds a layer and no more; with %d the start can be told apart.", say.Counted(int64(len(in.Runs)), "run carries", "runs carry"), candidates[1].runs)
	}
	out.spread(misses)
	if in.Job != nil {
		out.predict(coefficients, misses, in)
	}
	return out, nil
}

func (out *LearnedResult) spread(misses []float64) {
	if len(misses) < 2 {
		return
	}
	var sum float64
	for _, m := range misses {
		sum += m * m
	}
	out.MissPct = quantity.Ptr(100 * (math.Exp(math.Sqrt(sum/float64(len(misses)))) - 1))
}

func (out *LearnedResult) predict(coefficients [4]float64, misses []float64, in LearnedInput) {
	total := dot(coefficients, in.Job.columns())
	if total <= 0 {
		return
	}
	out.TotalS = &total
	if n := float64(len(misses)); n >= 2 {
		var sum float64
		for _, m := range misses {
			sum += m * m
		}
		half := stats.T(n-1) * math.Sqrt(sum/n*(1+1/n))
		if factor := quantity.ExpInterval(-half, half); factor != nil {
			out.TotalPI = &quantity.Interval{total * factor[0], total * factor[1]}
		}
	}
	var outside []string
	for i, v := range in.Job.columns() {
		least, most := math.Inf(1), math.Inf(-1)
		for _, r := range in.Runs {
			least, most = min(least, r.columns()[i]), max(most, r.columns()[i])
		}
		if i > 0 && coefficients[i] > 0 && (quantity.Less(v, least) || quantity.Less(most, v)) {
			outside = append(outside, termNames[i].Name)
		}
	}
	if len(outside) > 0 {
		out.Warn("extrapolated", "This print lies outside the runs it was learned from (%s); its time may be further off than said.", strings.Join(outside, ", "))
	}
}

func (j Job) columns() [4]float64 {
	return [4]float64{1, float64(j.Layers), j.AreaMM2, j.OutlineMM}
}

func dot(a, b [4]float64) (sum float64) {
	for i := range a {
		sum += a[i] * b[i]
	}
	return sum
}

// choose is the model with the least misses, the log of actual over predicted
// for each run when it was left out.
func choose(runs []JobTime, whole bool) (best [4]float64, misses []float64) {
	least := math.Inf(1)
	for _, c := range candidates {
		if len(runs) < c.runs || whole && slices.Max(c.columns) > layerColumn {
			continue
		}
		found, sum := leaveOneOut(runs, c.columns)
		// A larger model has to be clearly better, a twentieth, to be believed.
		if misses == nil || sum < 0.95*least {
			least, misses = sum, found
			best = nonNegative(runs, c.columns)
		}
	}
	return best, misses
}

// leaveOneOut predicts each run from the others. Every subset of the columns is fitted
// once to all of the runs; what it would be without one of them follows from it.
func leaveOneOut(runs []JobTime, columns []int) (misses []float64, sum float64) {
	if len(runs) < 2 {
		return nil, 0
	}
	var fits []fit
	for _, used := range subsets(columns) {
		if f, ok := fitOf(runs, used); ok {
			fits = append(fits, f)
		}
	}
	for i, r := range runs {
		least, predicted := math.Inf(1), 0.0
		for _, f := range fits {
			found, squares, ok := f.without(i)
			if ok && squares < least*(1-1e-12) {
				least, predicted = squares, dot(found, r.columns())
			}
		}
		if predicted <= 0 {
			return nil, math.Inf(1)
		}
		m := math.Log(r.ActualS / predicted)
		misses, sum = append(misses, m), sum+m*m
	}
	return misses, sum
}

// nonNegative is least squares with every coefficient >= 0. With at most four
// columns the best subset is found by trying each.
func nonNegative(runs []JobTime, columns []int) (best [4]float64) {
	least := math.Inf(1)
	for _, used := range subsets(columns) {
		f, ok := fitOf(runs, used)
		if !ok {
			continue
		}
		found, ok := f.coefficients(f.scaled)
		if ok && f.squares < least*(1-1e-12) {
			least, best = f.squares, found
		}
	}
	return best
}

// subsets lists the ways to use at least one of the columns.
func subsets(columns []int) (out [][]int) {
	for subset := 1; subset < 1<<len(columns); subset++ {
		var used []int
		for i, column := range columns {
			if subset>>i&1 == 1 {
				used = append(used, column)
			}
		}
		out = append(out, used)
	}
	return out
}

// fit is least squares on some columns, each run weighted by 1/time.
type fit struct {
	used    []int
	scale   []float64   // the largest of each column, which it was divided by
	scaled  []float64   // coefficients of the scaled columns
	weights [][]float64 // of each run: its row through the inverse of the normal matrix
	rows    [][]float64 // of each run: scaled columns over its time
	misses  []float64   // of each run: 1 less what the fit makes of it
	squares float64     // the sum of their squares
}

func fitOf(runs []JobTime, used []int) (f fit, ok bool) {
	if len(runs) < len(used) {
		return f, false
	}
	f = fit{used: used, scale: make([]float64, len(used)), scaled: make([]float64, len(used))}
	for k, column := range used {
		for _, r := range runs {
			f.scale[k] = max(f.scale[k], r.columns()[column])
		}
		if f.scale[k] == 0 {
			return f, false
		}
	}
	a, b := mat.NewDense(len(runs), len(used), nil), mat.NewVecDense(len(runs), nil)
	for i, r := range runs {
		row := a.RawRowView(i)
		for k, column := range used {
			row[k] = r.columns()[column] / f.scale[k] / r.ActualS
		}
		f.rows = append(f.rows, row)
		b.SetVec(i, 1)
	}
	var qr mat.QR
	qr.Factorize(a)
	x := mat.NewVecDense(len(used), f.scaled)
	if err := qr.SolveVecTo(x, false, b); err != nil {
		return f, false // the runs do not tell these terms apart
	}
	var r mat.Dense
	qr.RTo(&r)
	for _, row := range f.rows {
		miss := 1 - inner(f.scaled, row)
		f.misses, f.squares = append(f.misses, miss), f.squares+miss*miss
		f.weights = append(f.weights, throughNormal(&r, row))
	}
	return f, true
}

// throughNormal solves R'R·w = row, R being the upper triangle of the fit.
func throughNormal(r mat.Matrix, row []float64) []float64 {
	w := append([]float64{}, row...)
	for k := range w {
		for j := range k {
			w[k] -= r.At(j, k) * w[j]
		}
		w[k] /= r.At(k, k)
	}
	for k := len(w) - 1; k >= 0; k-- {
		for j := k + 1; j < len(w); j++ {
			w[k] -= r.At(k, j) * w[j]
		}
		w[k] /= r.At(k, k)
	}
	return w
}

// leastRest is how much of a run the others must determine for the fit to hold without
// it.
const leastRest = 1e-9

// without is the fit as it would be without one run, and the sum of its squares
// (Belsley, Kuh and Welsch 1980, sec. 2.1); not ok where the others do not carry it, or
// where a coefficient is negative.
func (f fit) without(i int) (out [4]float64, squares float64, ok bool) {
	rest := 1 - inner(f.weights[i], f.rows[i])
	if len(f.rows)-1 < len(f.used) || rest < leastRest {
		return out, 0, false
	}
	var scaled [4]float64
	for k, w := range f.weights[i] {
		scaled[k] = f.scaled[k] - w*f.misses[i]/rest
	}
	out, ok = f.coefficients(scaled[:len(f.used)])
	return out, max(0, f.squares-f.misses[i]*f.misses[i]/rest), ok
}

// coefficients are those of the columns as they are; not ok where one is negative.
func (f fit) coefficients(scaled []float64) (out [4]float64, ok bool) {
	for k, column := range f.used {
		if out[column] = scaled[k] / f.scale[k]; out[column] < 0 {
			return out, false
		}
	}
	return out, true
}

func inner(a, b []float64) (sum float64) {
	for i, v := range a {
		sum += v * b[i]
	}
	return sum
}
