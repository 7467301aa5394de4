package mesh

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"io"
	"path"
	"strconv"
	"strings"
)

// Bounds of a 3MF file: what its parts may unpack to, how many parts it may
// have, and how deep components may lie within components.
const (
	mostUnpacked = 512 << 20
	mostParts    = 4096
	mostDepth    = 32
)

// millimetres per unit of a 3MF model (3MF Core Specification, 3.4).
var unitMM = map[string]float64{"": 1, "micron": 0.001, "millimeter": 1, "centimeter": 10, "inch": 25.4, "foot": 304.8, "meter": 1000}

// partKey names an object: the model part it stands in and its id there.
type partKey struct{ part, id string }

// placed is a reference to an object with the transform it is put in by.
type placed struct {
	key partKey
	at  transform
}

// object is a mesh of its own, or components that point to others.
type object struct {
	vertices   [][3]float64
	faces      [][3]uint32
	components []placed
}

// package3MF is what was read of the zip.
type package3MF struct {
	files    map[string]*zip.File
	budget   int64 // what may still be unpacked
	limit    int64
	objects  map[partKey]*object
	items    []placed
	unit     map[string]float64
	read     map[string]bool
	pending  []string
	expanded int
}

// Read3MF reads every item of the build of a 3MF file in millimetres: units,
// several objects, build transforms, components within components, and objects
// in other parts of the package. The XML is read as a stream, so that a file
// that unpacks without end stops at 512 MiB.
func Read3MF(data []byte) (*Mesh, error) { return read3MF(data, mostUnpacked) }

func read3MF(data []byte, budget int64) (*Mesh, error) {
	p := &package3MF{budget: budget, limit: budget, files: map[string]*zip.File{}, objects: map[partKey]*object{}, unit: map[string]float64{}, read: map[string]bool{}}
	if err := p.open(data); err != nil {
		return nil, err
	}
	root, err := p.root()
	if err != nil {
		return nil, err
	}
	p.pending = []string{root}
	for len(p.pending) > 0 {
		part := p.pending[0]
		p.pending = p.pending[1:]
		if p.read[part] {
			continue
		}
		p.read[part] = true
		if err := p.readPart(part, part == root); err != nil {
			return nil, fmt.Errorf("part %s: %w", part, err)
		}
	}
	if len(p.items) == 0 {
		return nil, errors.New("has nothing on its build; place the objects in your software and export again")
	}
	m := &Mesh{Format: "3mf"}
	for i, item := range p.items {
		if err := p.expand(m, item.key, item.at, 0); err != nil {
			return nil, fmt.Errorf("build item %d: %w", i+1, err)
		}
	}
	if len(m.Triangles) == 0 {
		return nil, errors.New("holds no triangles; export the model again")
	}
	return m, nil
}

func (p *package3MF) open(data []byte) error {
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return fmt.Errorf("is no whole 3MF file (a zip of XML): %w", err)
	}
	if len(z.File) > mostParts {
		return fmt.Errorf("has %d parts; up to %d are read", len(z.File), mostParts)
	}
	for _, f := range z.File {
		if name := strings.ReplaceAll(f.Name, `\`, "/"); strings.HasPrefix(name, "/") || path.Clean("/"+name) != "/"+strings.TrimSuffix(name, "/") {
			return fmt.Errorf("holds a part named %.80q, a path that climbs out of the package; it is not a 3MF file to trust", f.Name)
		}
		p.files["/"+f.Name] = f
	}
	return nil
}

// stream opens a part; what all parts unpack to is bounded together.
func (p *package3MF) stream(part string) (*tags, io.Closer, error) {
	f, there := p.files[part]
	if !there {
		return nil, nil, errors.New("is missing from the package")
	}
	r, err := f.Open()
	if err != nil {
		return nil, nil, fmt.Errorf("cannot be unpacked: %w", err)
	}
	return newTags(&bounded{from: r, left: &p.budget, limit: p.limit}), r, nil
}

// bounded stops a part that unpacks beyond what is left of the budget.
type bounded struct {
	from  io.Reader
	left  *int64
	limit int64
}

func (b *bounded) Read(buffer []byte) (int, error) {
	if *b.left <= 0 {
		return 0, fmt.Errorf("unpacks to more than %d MiB; reduce the model in your software", b.limit>>20)
	}
	n, err := b.from.Read(buffer[:min(int64(len(buffer)), *b.left)])
	*b.left -= int64(n)
	return n, err
}

// modelRelation ends the type of the relationship that names the 3D model
// (3MF Core Specification, 2.1).
const modelRelation = "/3dmodel"

func (p *package3MF) root() (string, error) {
	dec, closer, err := p.stream("/_rels/.rels")
	if err != nil {
		return "", fmt.Errorf("part /_rels/.rels: %w; it is no 3MF file", err)
	}
	root := ""
	err = errors.Join(elements(dec, func(t *tags) error {
		if string(t.name) == "Relationship" && strings.HasSuffix(t.word("Type"), modelRelation) && root == "" {
			root = path.Clean("/" + t.word("Target"))
		}
		return nil
	}), closer.Close())
	if err != nil {
		return "", fmt.Errorf("part /_rels/.rels: %w", err)
	}
	if root == "" {
		return "", errors.New("names no 3D model in its relationships; it is no 3MF file")
	}
	return root, nil
}

func elements(t *tags, each func(*tags) error) error {
	for {
		err := t.next()
		if err == io.EOF {
			return nil
		}
		if err == nil {
			err = each(t)
		}
		if err != nil {
			return fmt.Errorf("line %d: %w", t.line, err)
		}
	}
}

// readPart reads the objects of one model part; only the root's build counts.
func (p *package3MF) readPart(part string, isRoot bool) (err error) {
	dec, closer, err := p.stream(part)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, closer.Close()) }()
	var current *object
	return elements(dec, func(t *tags) error {
		switch string(t.name) {
		case "model":
			scale, known := unitMM[t.word("unit")]
			if !known {
				return fmt.Errorf("unit %.20q is none that 3MF has", t.attr("unit"))
			}
			p.unit[part] = scale
		case "object":
			current = &object{}
			p.objects[partKey{part, t.word("id")}] = current
		case "item":
			if !isRoot {
				return nil
			}
			ref, err := p.reference(t, part)
			p.items = append(p.items, ref)
			return err
		}
		if current == nil {
			return nil
		}
		return p.fill(current, t, part)
	})
}

// fill adds to the object in hand what an element within it says.
func (p *package3MF) fill(o *object, t *tags, part string) error {
	switch string(t.name) {
	case "component":
		ref, err := p.reference(t, part)
		o.components = append(o.components, ref)
		return err
	case "vertex":
		var v [3]float64
		for axis, name := range [3]string{"x", "y", "z"} {
			n, err := strconv.ParseFloat(string(t.attr(name)), 64)
			if err != nil {
				return fmt.Errorf("vertex %d: %s is %.20q, which is no place in space", len(o.vertices), name, t.attr(name))
			}
			v[axis] = n
		}
		if !finite(v) {
			return fmt.Errorf("vertex %d is no place in space (%v)", len(o.vertices), v)
		}
		if len(o.vertices) >= mostTriangles {
			return fmt.Errorf("has more than %d vertices; reduce the model in your software", mostTriangles)
		}
		o.vertices = append(o.vertices, v)
	case "triangle":
		var f [3]uint32
		for i, name := range [3]string{"v1", "v2", "v3"} {
			n, err := strconv.ParseUint(string(t.attr(name)), 10, 32)
			if err != nil || n >= uint64(len(o.vertices)) {
				return fmt.Errorf("triangle %d: corner %.20q points to none of %d vertices", len(o.faces)+1, t.attr(name), len(o.vertices))
			}
			f[i] = uint32(n)
		}
		if len(o.faces) >= mostTriangles {
			return tooMany(len(o.faces))
		}
		o.faces = append(o.faces, f)
	}
	return nil
}

// reference reads where an item or component points, perhaps into another part.
func (p *package3MF) reference(t *tags, part string) (placed, error) {
	if other := t.word("path"); other != "" {
		part = path.Clean("/" + other)
		p.pending = append(p.pending, part)
		if len(p.pending) > mostParts {
			return placed{}, fmt.Errorf("points to more than %d parts", mostParts)
		}
	}
	at, err := parseTransform(t.word("transform"))
	return placed{partKey{part, t.word("objectid")}, at}, err
}

// expand puts an object and its components into the mesh, in millimetres.
func (p *package3MF) expand(m *Mesh, key partKey, at transform, depth int) error {
	o, there := p.objects[key]
	if !there {
		return fmt.Errorf("points to object %.20q, which is not there", key.id)
	}
	// Empty objects count too: components may double at every level.
	if p.expanded++; depth > mostDepth || p.expanded > mostTriangles {
		return fmt.Errorf("object %.20q holds itself, or components more than %d deep", key.id, mostDepth)
	}
	if len(m.Triangles)+len(o.faces) > mostTriangles {
		return tooMany(len(m.Triangles) + len(o.faces))
	}
	scale, mirrored := p.unit[key.part], at.mirrors()
	for n, f := range o.faces {
		var t Triangle
		for i, v := range f {
			q := at.apply(o.vertices[v])
			for axis := range q {
				q[axis] *= scale
				t[i][axis] = float32(q[axis])
			}
			if !finite(q) {
				return fmt.Errorf("triangle %d of object %.20q is put at no place in space", n+1, key.id)
			}
		}
		if mirrored {
			t[1], t[2] = t[2], t[1]
		}
		m.Triangles = append(m.Triangles, t)
	}
	for _, c := range o.components {
		if err := p.expand(m, c.key, c.at.then(at), depth+1); err != nil {
			return err
		}
	}
	return nil
}
