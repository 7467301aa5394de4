package plan

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/stat/distuv"

	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// DesignPrint is one print of an experiment: its levels in order and what was
// measured of it.
type DesignPrint struct {
	Levels []any   `json:"levels"`
	Value  float64 `json:"value"`
}

// EffectsInput is an experiment with its results.
type EffectsInput struct {
	Factors      []Factor      `json:"factors"`
	Interactions [][]string    `json:"interactions,omitempty"`
	Prints       []DesignPrint `json:"prints"`
}

// Effect is one term's F test; PAdjusted is Holm's over the terms. F and p are nil
// without a residual.
type Effect struct {
	Term      string   `json:"term"`
	F         *float64 `json:"f"`
	DF1       int      `json:"df1"`
	DF2       int      `json:"df2"`
	P         *float64 `json:"p"`
	PAdjusted *float64 `json:"p_adjusted"`
}

// LevelMean is the model's mean at one level, the levels of all other factors weighing
// alike.
type LevelMean struct {
	Factor string             `json:"factor"`
	Level  any                `json:"level"`
	Mean   float64            `json:"mean"`
	CI     *quantity.Interval `json:"ci"`
}

// EffectsResult is what an experiment shows.
type EffectsResult struct {
	Terms      []Effect    `json:"terms"`
	Means      []LevelMean `json:"means"`
	ResidualSD *float64    `json:"residual_sd"`
	quantity.Warnings
}

// Effects fits the model by least squares and tests each term by dropping its columns.
// An experiment whose terms are not all estimable is an error of prints. It warns
// no_residual.
func Effects(in EffectsInput) (EffectsResult, error) {
	m, rows, values, err := experiment(in)
	if err != nil {
		return EffectsResult{}, err
	}
	x, y := mat.NewDense(len(rows), m.columns, nil), mat.NewVecDense(len(values), values)
	for i, row := range rows {
		for j, v := range row {
			x.Set(i, j, float64(v))
		}
	}
	fit, err := leastSquares(x, y)
	if err != nil {
		return EffectsResult{}, quantity.Errorf("prints", "do not separate the effects asked for (%v); print more cells", err)
	}
	out := EffectsResult{Means: []LevelMean{}, Warnings: quantity.None()}
	df := len(rows) - m.columns
	if df > 0 && fit.spread(y) {
		out.ResidualSD = quantity.Ptr(math.Sqrt(fit.sse / float64(df)))
	} else {
		out.Warn("no_residual", "No print is left to show the spread, so no effect can be tested; print some cells again.")
	}
	if err := out.test(m, fit, df); err != nil {
		return EffectsResult{}, err
	}
	out.mean(m, fit, df)
	return out, nil
}

func experiment(in EffectsInput) (m model, rows [][]int, values []float64, err error) {
	var c quantity.Checks
	m = modelOf(&c, in.Factors, in.Interactions)
	if c.Err() != nil {
		return m, nil, nil, c.Err()
	}
	space := basis{columns: m.columns}
	for i, p := range in.Prints {
		at := fmt.Sprintf("prints[%d]", i)
		levels := m.levelsAt(&c, at, p.Levels)
		c.Number(at+".value", p.Value)
		if c.Err() != nil {
			return m, nil, nil, c.Err()
		}
		row := m.row(levels)
		rows, values = append(rows, row), append(values, p.Value)
		if len(space.rows) < m.columns {
			space.take(inField(row))
		}
	}
	if len(space.rows) < m.columns {
		c.Fail("prints", "do not separate the effects asked for; plan/design says which cells would")
	}
	return m, rows, values, c.Err()
}

// fitted is a least-squares fit with the inverse of its normal matrix.
type fitted struct {
	beta    *mat.VecDense
	inverse *mat.SymDense
	sse     float64
}

func leastSquares(x *mat.Dense, y *mat.VecDense) (f fitted, err error) {
	_, n := x.Dims()
	normal := mat.NewSymDense(n, nil)
	normal.SymOuterK(1, x.T())
	var cholesky mat.Cholesky
	if !cholesky.Factorize(normal) {
		return f, fmt.Errorf("their normal matrix is singular")
	}
	f.inverse = mat.NewSymDense(n, nil)
	if err := cholesky.InverseTo(f.inverse); err != nil {
		return f, err
	}
	var right, residual mat.VecDense
	right.MulVec(x.T(), y)
	f.beta = mat.NewVecDense(n, nil)
	if err := cholesky.SolveVecTo(f.beta, &right); err != nil {
		return f, err
	}
	residual.MulVec(x, f.beta)
	residual.SubVec(y, &residual)
	f.sse = mat.Dot(&residual, &residual)
	return f, nil
}

// spread reports residuals that are more than rounding noise.
func (f fitted) spread(y *mat.VecDense) bool {
	return math.Sqrt(f.sse) > quantity.RelativeNoise*math.Sqrt(mat.Dot(y, y))
}

// test drops each term's columns: F is the rise of the squares a column over what is
// left a degree.
func (out *EffectsResult) test(m model, f fitted, df int) error {
	var in evidence.HolmInput
	for _, t := range m.terms[1:] {
		row := Effect{Term: t.name, DF1: t.columns(), DF2: df}
		if out.ResidualSD != nil {
			rise, err := f.dropping(t)
			if err != nil {
				return err
			}
			value := rise / float64(row.DF1) / (*out.ResidualSD * *out.ResidualSD)
			row.F = &value
			row.P = quantity.Ptr(distuv.F{D1: float64(row.DF1), D2: float64(df)}.Survival(value))
		}
		in.P = append(in.P, row.P)
		out.Terms = append(out.Terms, row)
	}
	adjusted, err := evidence.Holm(in)
	for i := range out.Terms {
		out.Terms[i].PAdjusted = adjusted.Adjusted[i]
	}
	return err
}

// dropping is by how much the squares rise without a term: b'·V⁻¹·b with b its
// coefficients and V their part of the inverse.
func (f fitted) dropping(t term) (float64, error) {
	n := t.columns()
	part, b := mat.NewSymDense(n, nil), mat.NewVecDense(n, nil)
	for i := range n {
		b.SetVec(i, f.beta.AtVec(t.from+i))
		for j := i; j < n; j++ {
			part.SetSym(i, j, f.inverse.At(t.from+i, t.from+j))
		}
	}
	var cholesky mat.Cholesky
	if !cholesky.Factorize(part) {
		return 0, quantity.Errorf("prints", "do not separate %s; print more cells", t.name)
	}
	var solved mat.VecDense
	if err := cholesky.SolveVecTo(&solved, b); err != nil {
		return 0, fmt.Errorf("drop %s: %w", t.name, err)
	}
	return mat.Dot(b, &solved), nil
}

func (out *EffectsResult) mean(m model, f fitted, df int) {
	for _, t := range m.terms[1 : 1+len(m.factors)] {
		factor := t.factors[0]
		for level, name := range m.factors[factor].Levels {
			at := mat.NewVecDense(m.columns, nil)
			at.SetVec(0, 1)
			for i, v := range m.code(factor, level) {
				at.SetVec(t.from+i, float64(v))
			}
			row := LevelMean{Factor: t.name, Level: name, Mean: mat.Dot(at, f.beta)}
			if out.ResidualSD != nil {
				half := stats.T(float64(df)) * *out.ResidualSD * math.Sqrt(mat.Inner(at, f.inverse, at))
				row.CI = &quantity.Interval{row.Mean - half, row.Mean + half}
			}
			out.Means = append(out.Means, row)
		}
	}
}
