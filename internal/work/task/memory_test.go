package task

import (
	"errors"
	"sync"
	"sync/atomic"
	"testing"
)

type first struct{ a, b string }
type second struct{ a, b string }

func counted(n *int, value string) func() (string, error) {
	return func() (string, error) { *n++; return value, nil }
}

func TestAnAnswerIsWorkedOutOnceForTheRecordAsItIs(t *testing.T) {
	var m Memory
	n := 0
	ask := func(at int64, key first) {
		if got, err := Recall(&m, at, key, counted(&n, key.a+"|"+key.b)); err != nil || got != key.a+"|"+key.b {
			t.Fatalf("%q, %v", got, err)
		}
	}
	ask(1, first{"a", "b"})
	ask(1, first{"a", "b"})
	if n != 1 {
		t.Errorf("worked out %d times", n)
	}
	ask(1, first{"ab", ""}) // the same letters, another question
	ask(2, first{"a", "b"}) // the record moved on
	if n != 3 {
		t.Errorf("worked out %d times", n)
	}
	ask(1, first{"a", "b"}) // one who read before it did is answered, and not kept
	ask(2, first{"a", "b"})
	if n != 4 {
		t.Errorf("worked out %d times", n)
	}
}

func TestTwoQuestionsOfDifferentKindsShareNoAnswer(t *testing.T) {
	var m Memory
	n := 0
	a, err := Recall(&m, 1, first{"x", "y"}, counted(&n, "first"))
	if err != nil {
		t.Fatal(err)
	}
	b, err := Recall(&m, 1, second{"x", "y"}, counted(&n, "second"))
	if err != nil || a != "first" || b != "second" {
		t.Errorf("%s, %s, %v", a, b, err)
	}
}

func TestMemoryIsBoundedAndKeepsWhatWasAskedForLast(t *testing.T) {
	var m Memory
	n := 0
	for i := range remembered {
		_, _ = Recall(&m, 1, i, counted(&n, ""))
	}
	_, _ = Recall(&m, 1, 0, counted(&n, "")) // asked for again
	_, _ = Recall(&m, 1, remembered, counted(&n, ""))
	if m.order.Len() != remembered || len(m.known) != remembered || n != remembered+1 {
		t.Fatalf("%d and %d kept, %d worked out", m.order.Len(), len(m.known), n)
	}
	_, _ = Recall(&m, 1, 0, counted(&n, ""))
	if n != remembered+1 {
		t.Error("what was asked for last was forgotten")
	}
	_, _ = Recall(&m, 1, 1, counted(&n, ""))
	if n != remembered+2 {
		t.Error("what was asked for longest ago was kept")
	}
}

func TestManyWhoAskAtOnceWaitForOneAnswer(t *testing.T) {
	var m Memory
	var worked atomic.Int64
	begun, goOn := make(chan struct{}), make(chan struct{})
	var all sync.WaitGroup
	ask := func(work func() (int, error)) {
		defer all.Done()
		if got, err := Recall(&m, 1, "question", work); err != nil || got != 7 {
			t.Errorf("%d, %v", got, err)
		}
	}
	all.Add(1)
	go ask(func() (int, error) { worked.Add(1); close(begun); <-goOn; return 7, nil })
	<-begun
	for range 20 {
		all.Add(1)
		go ask(func() (int, error) { worked.Add(1); return 7, nil })
	}
	close(goOn)
	all.Wait()
	if worked.Load() != 1 {
		t.Errorf("worked out %d times", worked.Load())
	}
}

func TestAFailureIsNotRemembered(t *testing.T) {
	var m Memory
	if _, err := Recall(&m, 1, "q", func() (int, error) { return 0, errors.New("no") }); err == nil {
		t.Error("the failure is lost")
	}
	if got, err := Recall(&m, 1, "q", func() (int, error) { return 3, nil }); err != nil || got != 3 {
		t.Errorf("%d, %v", got, err)
	}
}
