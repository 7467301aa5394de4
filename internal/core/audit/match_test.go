package audit

import (
	"errors"
	"math/rand/v2"
	"reflect"
	"slices"
	"strings"
	"testing"

	"ojime/internal/core/quantity"
)

// spoiled are full conditions of which some are other ones, of some prints or of none.
func spoiled(random *rand.Rand) Conditions {
	c := full()
	fields := reflect.ValueOf(&c).Elem()
	for i := range fields.NumField() {
		values, some := fields.Field(i).Interface().(Values)
		if !some || len(values) == 0 || random.IntN(3) > 0 {
			continue
		}
		out := Values{}
		for range random.IntN(4) {
			switch v := values[0].(type) {
			case float64:
				out = append(out, v+float64(random.IntN(3)))
			case bool:
				out = append(out, random.IntN(2) == 0)
			default:
				out = append(out, v)
			}
			if random.IntN(4) == 0 {
				out = append(out, nil)
			}
		}
		fields.Field(i).Set(reflect.ValueOf(out))
	}
	return c
}

// Sides that are matched once say for each question, in whichever order, what a comparison for it alone says, and a question
// leaves nothing behind for the next.
func TestAPairSaysForEachQuestionWhatAComparisonDoes(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 9))
	policies := []*string{nil, quantity.Ptr(SameSettings), quantity.Ptr(MakerDefault), quantity.Ptr(EachCalibrated)}
	grades := map[string]int{}
	for range 300 {
		in := CompareInput{A: spoiled(random), B: spoiled(random), Policy: policies[random.IntN(len(policies))]}
		for _, factor := range Factors() {
			if factor != prints && random.IntN(20) == 0 {
				in.UnderTest = append(in.UnderTest, factor)
			}
		}
		pair, err := Match(in, "A", "B")
		if err != nil {
			t.Fatal(err)
		}
		questions := slices.Clone(Questions)
		random.Shuffle(len(questions), func(i, j int) { questions[i], questions[j] = questions[j], questions[i] })
		for _, question := range questions {
			in.Question = question
			want, err := Compare(in)
			if err != nil {
				t.Fatal(err)
			}
			got, err := pair.For(question)
			if err != nil || !reflect.DeepEqual(got, want) {
				t.Fatalf("%s: %v\n%+v, want\n%+v", question, err, got, want)
			}
			grades[want.Grade]++
		}
	}
	if len(grades) < 3 {
		t.Errorf("only grades %v were tried", grades)
	}
}

func TestAPairHasItsNamesAndRefusesWhatIsNone(t *testing.T) {
	in := CompareInput{A: full(), B: full(), UnderTest: []string{layerUM}}
	in.B.LayerUM = One(77.0)
	pair, err := Match(in, "D", "F")
	if err != nil {
		t.Fatal(err)
	}
	got, err := pair.For(Detail)
	if err != nil || !slices.ContainsFunc(got.Rows, func(r Row) bool { return r.Factor == layerUM && strings.Contains(r.Sentence, " in D, 77 µm in F") }) {
		t.Errorf("%v, %+v", err, got.Rows)
	}
	var wrong *quantity.FieldError
	if _, err := pair.For("beauty"); !errors.As(err, &wrong) || wrong.Path != "question" {
		t.Errorf("a question that is none: %v", err)
	}
	in.UnderTest = []string{"beauty"}
	if _, err := Match(in, "D", "F"); !errors.As(err, &wrong) || wrong.Path != "under_test[0]" {
		t.Errorf("a factor that is none: %v", err)
	}
}
