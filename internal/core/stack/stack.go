// Package stack reads a sliced print: a zip file of one PNG picture for each layer, and what it
// says in texts beside them. Layers are read one by one, a few at a time, and not kept.
package stack

import (
	"io"
	"sync"

	"ojime/internal/core/quantity"
)

// ErrStopped is the answer of Read where its caller said that enough was read.
var ErrStopped = quantity.Errorf("file", "was not read to its end: it was stopped")

// Stack is what a container says: its layers in order, the size of each in pixels, which numbers
// are missing between them, the files that are no layers, and the texts of settings.
type Stack struct {
	WidthPX  int
	HeightPX int
	Layers   []Layer
	// First is the number of the first layer; Missing the numbers between the first and the last
	// for which there is no picture.
	First   int
	Missing []int
	Others  []string
	Texts   []Text
}

// Read reads a container of size bytes with up to workers layers at a time. After each layer it
// tells how many of all are read, and stops with ErrStopped once that answers false. What is no
// stack, or is beyond the bounds of the package, is a quantity.Error that says so.
func Read(r io.ReaderAt, size int64, workers int, tell func(read, of int) bool) (Stack, error) {
	o, err := open(r, size)
	if err != nil {
		return Stack{}, err
	}
	out := Stack{WidthPX: o.width, HeightPX: o.height, First: o.layers[0].number, Missing: o.missing, Others: o.others, Texts: o.texts, Layers: make([]Layer, len(o.layers))}
	if !tell(0, len(o.layers)) {
		return Stack{}, ErrStopped
	}
	workers = max(1, min(workers, int(mostHeld/o.decoded)))
	var before []stretch
	err = inOrder(len(o.layers), workers, func(i int) (layerRead, error) {
		m, err := o.decode(o.layers[i])
		if err != nil {
			return layerRead{}, err
		}
		l, stretches, err := read(m)
		return layerRead{l, stretches}, err
	}, func(i int, l layerRead) error {
		l.layer.islands(l.stretches, before, i == 0)
		out.Layers[i], before = l.layer, l.stretches
		if !tell(i+1, len(o.layers)) {
			return ErrStopped
		}
		return nil
	})
	if err != nil {
		return Stack{}, err
	}
	return out, nil
}

type layerRead struct {
	layer     Layer
	stretches []stretch
}

// inOrder makes n things, up to workers at a time, and takes them in their order. It ends with the
// first error.
func inOrder[T any](n, workers int, one func(i int) (T, error), take func(i int, v T) error) error {
	type made struct {
		value T
		err   error
	}
	answers := make([]chan made, n)
	for i := range answers {
		answers[i] = make(chan made, 1)
	}
	places := make(chan struct{}, workers)
	stop := make(chan struct{})
	var running sync.WaitGroup
	running.Go(func() {
		for i := range n {
			select {
			case <-stop:
				return
			case places <- struct{}{}:
			}
			running.Go(func() {
				v, err := one(i)
				answers[i] <- made{v, err}
			})
		}
	})
	defer running.Wait()
	defer close(stop)
	for i := range n {
		m := <-answers[i]
		if m.err != nil {
			return m.err
		}
		if err := take(i, m.value); err != nil {
			return err
		}
		<-places
	}
	return nil
}
