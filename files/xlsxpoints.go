package files

// points writes the points of all runs, and the ends by each way. There is no chart: a
// workbook with one is not written the same twice.
func (b *book) points() {
	if len(b.r.Runs) == 0 {
		return
	}
	sheet := b.w.Text("file.points")
	_, err := b.f.NewSheet(sheet)
	b.do(err)
	axis := "pH"
	if b.r.Probe != nil {
		axis = b.r.Probe.Axis
	}
	b.head(sheet, 1, b.w.Text("text.trial"), b.w.Text("text.burette"), b.shows(), b.w.Text("file.point-volume"), axis, b.w.Text("file.point-residual"), b.w.Text("file.point-state"))
	row := 2
	ends := b.w.Text("file.ends")
	_, err = b.f.NewSheet(ends)
	b.do(err)
	b.head(ends, 1, b.w.Text("text.trial"), b.w.Text("file.way"), b.w.Text("file.point-volume"), "95 %", "95 %", b.w.Text("file.found"))
	at := 2
	for _, run := range b.r.Runs {
		for _, p := range pointsOf(b.r, run.Trial) {
			b.text(sheet, cell(1, row), run.Name)
			b.number(sheet, cell(2, row), p.Volume)
			b.number(sheet, cell(3, row), p.Reading)
			if p.Withdrawn { // it stands there, and is drawn nowhere
				b.text(sheet, cell(7, row), b.w.Text("trial.withdrawn"))
				row++
				continue
			}
			b.do(b.f.SetCellFloat(sheet, cell(4, row), p.V, 3, 64))
			b.do(b.f.SetCellFloat(sheet, cell(5, row), p.Y, 4, 64))
			if v, ok := residual(run, p); ok {
				b.do(b.f.SetCellFloat(sheet, cell(6, row), v, 4, 64))
			}
			row++
		}
		for _, e := range run.Ends {
			b.text(ends, cell(1, at), run.Name)
			b.text(ends, cell(2, at), e.Name)
			if e.Told {
				for k, v := range []float64{e.Volume, e.Low, e.High} {
					b.do(b.f.SetCellFloat(ends, cell(3+k, at), v, 4, 64))
				}
			}
			b.text(ends, cell(6, at), e.Text)
			at++
		}
		for _, text := range run.Found {
			b.text(ends, cell(1, at), run.Name)
			b.text(ends, cell(6, at), text)
			at++
		}
	}
	b.do(b.f.SetColWidth(ends, "B", "B", 34))
	b.do(b.f.SetColWidth(ends, "F", "F", 80))
}

func (b *book) shows() string {
	if b.r.Probe != nil {
		return b.r.Probe.Unit
	}
	return "pH"
}
