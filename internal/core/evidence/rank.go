package evidence

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/mat"

	"ojime/internal/core/quantity"
)

// Contest is one pair's record; rows of one pair add up, either way round. A
// tie is half a win each.
type Contest struct {
	A     string `json:"a"`
	B     string `json:"b"`
	AWins int64  `json:"a_wins"`
	BWins int64  `json:"b_wins"`
	Ties  *int64 `json:"ties,omitempty"`
}

// RankInput needs at least two different items that are all connected by
// contests.
type RankInput struct {
	Items    []string  `json:"items"`
	Contests []Contest `json:"contests"`
}

// RankResult is in the order of the items: log strengths of mean zero, their
// standard errors, and the probability that the row beats the column.
type RankResult struct {
	Strength       []float64   `json:"strength"`
	SE             []float64   `json:"se"`
	WinProbability [][]float64 `json:"win_probability"`
	quantity.Warnings
}

// Rank is Bradley and Terry's model by maximum likelihood. Unless every item
// reaches every other by a chain of wins (Ford 1957), half a win each way is
// added to every pair that met and regularised is warned. Standard errors come
// from the pseudo-inverse of the observed information.
func Rank(in RankInput) (RankResult, error) {
	wins, err := winTable(in)
	if err != nil {
		return RankResult{}, err
	}
	out := RankResult{Warnings: quantity.None()}
	if !everyoneReaches(wins, true) {
		regularise(wins)
		out.Warn("regularised", "Some item never lost or never won against the rest; half a win each way was added to every pair that met, so strengths are held back.")
	}
	strength, information := maximise(wins)
	out.Strength, out.SE = strength, standardErrors(information)
	for i := range strength {
		row := make([]float64, len(strength))
		for j := range strength {
			row[j] = 1 / (1 + math.Exp(strength[j]-strength[i]))
		}
		out.WinProbability = append(out.WinProbability, row)
	}
	return out, nil
}

// mostRanked bounds what is ranked: tables of every pair grow with its square.
const mostRanked = 200

func winTable(in RankInput) ([][]float64, error) {
	var c quantity.Checks
	index := map[string]int{}
	for i, name := range in.Items {
		if _, twice := index[name]; twice {
			c.Fail("items", "name %q twice; name each item once", name)
		}
		index[name] = i
	}
	if len(in.Items) > mostRanked {
		return nil, quantity.Errorf("items", "has %d names; at most %d are ranked at once", len(in.Items), mostRanked)
	}
	if len(in.Items) < 2 {
		c.Fail("items", "has %d names; at least 2 are needed", len(in.Items))
	}
	wins := make([][]float64, len(in.Items))
	for i := range wins {
		wins[i] = make([]float64, len(in.Items))
	}
	for i, k := range in.Contests {
		at := fmt.Sprintf("contests[%d].", i)
		a, knownA := index[k.A]
		b, knownB := index[k.B]
		ties := quantity.Or(k.Ties, 0)
		if !knownA {
			c.Fail(at+"a", "%q is not among the items", k.A)
		}
		if !knownB {
			c.Fail(at+"b", "%q is not among the items", k.B)
		}
		if knownA && k.A == k.B {
			c.Fail(at+"b", "%q cannot meet itself", k.B)
		}
		c.CountNotBelow(at+"a_wins", k.AWins)
		c.CountNotBelow(at+"b_wins", k.BWins)
		c.CountNotBelow(at+"ties", ties)
		if c.Err() != nil {
			return nil, c.Err()
		}
		wins[a][b] += float64(k.AWins) + float64(ties)/2
		wins[b][a] += float64(k.BWins) + float64(ties)/2
	}
	if c.Err() == nil && !everyoneReaches(wins, false) {
		c.Fail("contests", "leave items or groups that never met; add contests that connect them")
	}
	return wins, c.Err()
}

// everyoneReaches reports whether every item reaches every other: by wins, or
// (byWins false) by having met.
func everyoneReaches(wins [][]float64, byWins bool) bool {
	for start := range wins {
		seen := map[int]bool{start: true}
		for queue := []int{start}; len(queue) > 0; queue = queue[1:] {
			from := queue[0]
			for to := range wins {
				step := wins[from][to] > 0 || (!byWins && wins[to][from] > 0)
				if step && !seen[to] {
					seen[to] = true
					queue = append(queue, to)
				}
			}
		}
		if len(seen) != len(wins) {
			return false
		}
	}
	return true
}

func regularise(wins [][]float64) {
	for i := range wins {
		for j := range i {
			if wins[i][j]+wins[j][i] > 0 {
				wins[i][j] += 0.5
				wins[j][i] += 0.5
			}
		}
	}
}

// maximise climbs by Newton's method under mean zero, halving steps that
// overshoot, and returns the observed information at the top.
func maximise(wins [][]float64) ([]float64, *mat.SymDense) {
	n := len(wins)
	strength := make([]float64, n)
	current := logLikelihood(wins, strength)
	var information *mat.SymDense
	for range 200 {
		var gradient *mat.VecDense
		gradient, information = derivatives(wins, strength)
		var step mat.VecDense
		// A solver's complaint about a bad condition still leaves a usable
		// step; the likelihood test below decides whether it is taken.
		_ = step.SolveVec(pinned(information), gradient)
		share := 1.0
		next := moved(strength, &step, share)
		for logLikelihood(wins, next) < current && share > 1e-10 {
			share /= 2
			next = moved(strength, &step, share)
		}
		strength, current = next, logLikelihood(wins, next)
		if mat.Norm(&step, math.Inf(1))*share < 1e-13 {
			break
		}
	}
	_, information = derivatives(wins, strength)
	return strength, information
}

func derivatives(wins [][]float64, s []float64) (*mat.VecDense, *mat.SymDense) {
	n := len(wins)
	gradient, information := mat.NewVecDense(n, nil), mat.NewSymDense(n, nil)
	for i := range n {
		for j := range n {
			games := wins[i][j] + wins[j][i]
			if i == j || games == 0 {
				continue
			}
			p := 1 / (1 + math.Exp(s[j]-s[i]))
			gradient.SetVec(i, gradient.AtVec(i)+wins[i][j]-games*p)
			information.SetSym(i, i, information.At(i, i)+games*p*(1-p))
			if i < j {
				information.SetSym(i, j, -games*p*(1-p))
			}
		}
	}
	return gradient, information
}

// pinned adds 1/n to every entry, which fixes the mean at zero and leaves the
// rest of the information as it is.
func pinned(information *mat.SymDense) *mat.SymDense {
	n := information.SymmetricDim()
	out := mat.NewSymDense(n, nil)
	for i := range n {
		for j := i; j < n; j++ {
			out.SetSym(i, j, information.At(i, j)+1/float64(n))
		}
	}
	return out
}

func standardErrors(information *mat.SymDense) []float64 {
	n := information.SymmetricDim()
	var inverse mat.Dense
	// As above: the pinned information is positive definite for connected items.
	_ = inverse.Inverse(pinned(information))
	out := make([]float64, n)
	for i := range out {
		out[i] = math.Sqrt(math.Max(0, inverse.At(i, i)-1/float64(n)))
	}
	return out
}

func moved(s []float64, step *mat.VecDense, share float64) []float64 {
	out := make([]float64, len(s))
	for i := range s {
		out[i] = s[i] + share*step.AtVec(i)
	}
	return out
}

func logLikelihood(wins [][]float64, s []float64) float64 {
	var sum float64
	for i := range wins {
		for j := range wins {
			if wins[i][j] > 0 {
				sum -= wins[i][j] * math.Log1p(math.Exp(s[j]-s[i]))
			}
		}
	}
	return sum
}
