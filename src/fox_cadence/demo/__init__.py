"""The sample project and the code that draws its clips and plays its music."""
