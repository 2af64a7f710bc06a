// What one test typed is not there in the next.
beforeEach(() => sessionStorage.clear())
