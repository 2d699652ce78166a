package adopt

type reading struct{}
