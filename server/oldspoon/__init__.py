"""The Django project: settings, the API, how requests come in. Knows every place, is known by none."""
