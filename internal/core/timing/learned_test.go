package timing

import (
	"math"
	"math/rand/v2"
	"testing"
)

// simulated runs of a machine whose terms are known.
func simulated(n int, noise float64, terms [4]float64) []JobTime {
	chance := rand.New(rand.NewPCG(7, 7))
	out := make([]JobTime, n)
	for i := range out {
		layers := 200 + chance.Int64N(1500)
		j := Job{Layers: layers, AreaMM2: float64(layers) * (50 + 1500*chance.Float64()), OutlineMM: float64(layers) * (30 + 400*chance.Float64())}
		out[i] = JobTime{j, dot(terms, j.columns()) * math.Exp(noise*chance.NormFloat64())}
	}
	return out
}

func TestLearnedFindsWhatItWasMadeFrom(t *testing.T) {
	terms := [4]float64{300, 6, 0.004, 0.003}
	job := Job{Layers: 800, AreaMM2: 800 * 600, OutlineMM: 800 * 200}
	got, err := Learned(LearnedInput{Runs: simulated(40, 0, terms), Job: &job})
	if err != nil {
		t.Fatal(err)
	}
	if want := dot(terms, job.columns()); got.TotalS == nil || math.Abs(*got.TotalS-want) > 1e-6*want || len(got.Terms) != 4 {
		t.Errorf("%+v, want %v s", got, want)
	}
	for i, term := range got.Terms {
		if math.Abs(term.Value-terms[i]) > 1e-6*terms[i] {
			t.Errorf("%s: %v, want %v", term.Name, term.Value, terms[i])
		}
	}
}

func TestFewRunsCarryFewTerms(t *testing.T) {
	terms := [4]float64{300, 6, 0.004, 0.003}
	for n, most := range map[int]int{1: 1, 2: 1, 3: 1, 5: 2, 8: 3} {
		got, err := Learned(LearnedInput{Runs: simulated(n, 0.02, terms)})
		if err != nil || len(got.Terms) > most || len(got.Terms) == 0 || got.Has("few_runs") != (n < 4) || (got.MissPct == nil) != (n < 2) {
			t.Errorf("%d runs: %+v, %v", n, got, err)
		}
	}
}

// A time that hangs on layers alone must not gain terms from noise, and the
// interval must hold the truth about as often as it says.
func TestLearnedIntervalHolds(t *testing.T) {
	terms := [4]float64{0, 9, 0, 0}
	held := 0
	const rounds = 200
	for round := range rounds {
		chance := rand.New(rand.NewPCG(uint64(round), 3))
		var runs []JobTime
		for range 13 {
			j := Job{Layers: 300 + chance.Int64N(900), AreaMM2: 1e5 * chance.Float64(), OutlineMM: 1e4 * chance.Float64()}
			runs = append(runs, JobTime{j, dot(terms, j.columns()) * math.Exp(0.05*chance.NormFloat64())})
		}
		asked := runs[12]
		got, err := Learned(LearnedInput{Runs: runs[:12], Job: &asked.Job})
		if err != nil || got.TotalPI == nil {
			t.Fatalf("%+v, %v", got, err)
		}
		if asked.ActualS >= got.TotalPI[0] && asked.ActualS <= got.TotalPI[1] {
			held++
		}
	}
	if held < rounds*88/100 {
		t.Errorf("the 95 %% interval held %d of %d", held, rounds)
	}
}

func TestLearnedNamesNonsense(t *testing.T) {
	for _, in := range []LearnedInput{{}, {Runs: []JobTime{{Job{Layers: 0}, 5}}}, {Runs: []JobTime{{Job{Layers: 4}, -5}}},
		{Runs: []JobTime{{Job{Layers: 4}, 5}}, Job: &Job{Layers: 1, AreaMM2: math.NaN()}}} {
		if _, err := Learned(in); err == nil {
			t.Errorf("%+v was accepted", in)
		}
	}
	got, err := Learned(LearnedInput{Runs: simulated(20, 0.01, [4]float64{300, 6, 0.004, 0}), Job: &Job{Layers: 90000, AreaMM2: 1, OutlineMM: 1}})
	if err != nil || !got.Has("extrapolated") {
		t.Errorf("%+v, %v", got, err)
	}
}

// What a fit would be without a run is worked out from the fit with it; it must be what
// fitting the others anew gives.
func TestLeavingOneOutIsFittingTheOthers(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 5))
	for trial := range 40 {
		var runs []JobTime
		for range 3 + trial%9 {
			j := Job{Layers: 200 + int64(random.IntN(3000)), AreaMM2: 1e5 * random.Float64(), OutlineMM: 1e4 * random.Float64()}
			runs = append(runs, JobTime{Job: j, ActualS: (300 + 8*float64(j.Layers) + 0.01*j.AreaMM2) * (0.8 + 0.4*random.Float64())})
		}
		for _, c := range candidates {
			if len(runs) < c.runs {
				continue // exact fits of several kinds tie
			}
			misses, _ := leaveOneOut(runs, c.columns)
			for i, r := range runs {
				others := append(append([]JobTime{}, runs[:i]...), runs[i+1:]...)
				predicted := dot(nonNegative(others, c.columns), r.columns())
				if misses == nil {
					if predicted > 0 {
						continue // another run had none
					}
					break
				}
				if want := math.Log(r.ActualS / predicted); math.Abs(misses[i]-want) > 1e-8 {
					t.Fatalf("trial %d, columns %v: run %d misses by %v, fitted anew by %v", trial, c.columns, i, misses[i], want)
				}
			}
		}
	}
}

// A panel exposes a layer at once: two copies more on its plate took no longer, whatever noise says.
func TestAMachineThatExposesLayersWholeChargesNothingForACopy(t *testing.T) {
	var runs []JobTime
	for i, s := range []float64{27000, 27400, 26900, 55000, 54600, 27200, 55800, 27900, 56100} { // those of more area happen to be longer
		layers := int64(2000)
		if s > 50000 {
			layers = 4000
		}
		runs = append(runs, JobTime{Job{Layers: layers, AreaMM2: float64(layers) * float64(100+40*i), OutlineMM: float64(layers) * float64(60+30*i)}, s})
	}
	one, two := Job{Layers: 2000, AreaMM2: 2e5, OutlineMM: 1e5}, Job{Layers: 2000, AreaMM2: 4e5, OutlineMM: 2e5}
	for _, whole := range []bool{true, false} {
		a, err := Learned(LearnedInput{Runs: runs, Job: &one, Whole: whole})
		if err != nil {
			t.Fatal(err)
		}
		b, err := Learned(LearnedInput{Runs: runs, Job: &two, Whole: whole})
		if err != nil {
			t.Fatal(err)
		}
		if same := math.Abs(*a.TotalS-*b.TotalS) < 1e-9; same != whole {
			t.Errorf("whole %v: one copy %v s, two %v s", whole, *a.TotalS, *b.TotalS)
		}
	}
}
